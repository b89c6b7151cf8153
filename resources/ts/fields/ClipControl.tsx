import { useFileMotion } from '../shot/fileMotion';
import { Select } from '../ui/Select';
import type { ControlProps } from './control';

/** One of the animations in the prop's file, or all; one that the file has no longer stays named until another is chosen. */
export function ClipControl({ id, value, onChange }: ControlProps) {
  const clips = useFileMotion()?.clips ?? [];
  const named = String(value);
  return (
    <Select
      id={id}
      value={named}
      options={[
        ['', 'all together'],
        ...clips.map((name) => [name, name] as [string, string]),
        ...(named === '' || clips.includes(named) ? [] : [[named, `${named} (gone)`] as [string, string]]),
      ]}
      onChange={onChange}
    />
  );
}
