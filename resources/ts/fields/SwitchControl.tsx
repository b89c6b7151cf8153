import { Switch } from '../ui/controls';
import type { ControlProps } from './control';

export function SwitchControl({ id, value, onChange }: ControlProps) {
  return <Switch id={id} checked={value === true} onChange={onChange} />;
}
