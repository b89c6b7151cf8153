import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { Select } from '../ui/Select';
import type { ControlProps } from './control';

/** One of the prop's further weights, but the one that this is a setting of. */
export function WeightsField({ id, path, field, value, onChange }: ControlProps) {
  const { handle } = useContext(ShotContext);
  const weights = handle.shot.document.props[Number(path[1])]?.weights ?? [];
  const own = path[2] === 'weights' ? weights[Number(path[3])]?.id : undefined;
  const others = weights.filter((weight) => weight.id !== own);
  const gone = typeof value === 'string' && value !== '' && !weights.some((weight) => weight.id === value);
  return (
    <Select
      id={id}
      label={field.title}
      value={String(value)}
      options={[
        ['', others.length === 0 ? 'no further weight yet' : 'none'],
        ...others.map((weight) => [weight.id, weight.name] as [string, string]),
        ...(gone ? [[value, `“${value}” is gone`] as [string, string]] : []),
      ]}
      onChange={onChange}
    />
  );
}
