import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { Select } from '../ui/Select';
import type { ControlProps } from './control';

export function CueControl({ id, value, onChange }: ControlProps) {
  const { handle } = useContext(ShotContext);
  return (
    <Select
      id={id}
      value={String(value)}
      options={[
        ['', 'choose a cue'],
        ...handle.shot.document.cues.map(
          (cue) => [cue.id, `${cue.name} (${cue.frame} f)`] as [string, string],
        ),
      ]}
      onChange={onChange}
    />
  );
}
