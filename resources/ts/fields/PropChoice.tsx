import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { Select } from '../ui/Select';
import type { ControlProps } from './control';

/** One prop of the shot, or none; one that is named but no longer there stays named until another is chosen. */
export function PropChoice({ id, field, value, onChange }: ControlProps) {
  const { handle } = useContext(ShotContext);
  const props = handle.shot.document.props.map((prop) => [prop.id, prop.name] as [string, string]);
  const named = String(value);
  const gone = named !== '' && !props.some(([each]) => each === named);
  return (
    <Select
      id={id}
      value={named}
      options={[
        ['', field['x-none'] ?? 'none'],
        ...props,
        ...(gone ? [[named, `${named} (gone)`] as [string, string]] : []),
      ]}
      onChange={onChange}
    />
  );
}
