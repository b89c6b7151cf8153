import { Select } from '../ui/Select';
import type { ControlProps } from './control';

export function ChoiceControl({ id, field, value, onChange }: ControlProps) {
  return (
    <Select
      id={id}
      value={String(value)}
      options={(field.enum ?? []).map((option) => [option, field['x-labels']?.[option] ?? option])}
      onChange={onChange}
    />
  );
}
