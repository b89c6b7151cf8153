import { useContext, useId, useState } from 'react';
import { fieldAt } from '../api/schema';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import type { ControlProps } from './control';
import { KeyedNumber } from './KeyedNumber';
import { PickButton } from './PickButton';
import { TryValues } from './TryValues';
import { useWithin } from './useWithin';

/** Three numbers side by side; each may be keyed by itself. */
export function VectorField({ path, field }: ControlProps) {
  const axes = Object.keys(field.properties ?? {});
  const kind = field['x-pick'];
  const { within, follow } = useWithin();
  const [at, setAt] = useState('');
  const unit = fieldAt([...path, axes[0] ?? ''])['x-unit'];
  return (
    <fieldset className="py-1" data-field={path.join('/')} {...follow}>
      <legend className="flex min-h-7 w-full items-center justify-between gap-2" title={field.description}>
        <span>
          {field.title} <span className="text-[12px] text-ink-2">{unit}</span>
        </span>
        {kind ? <PickButton path={path} kind={kind} label="Pick on the prop" /> : null}
      </legend>
      <div className="flex gap-1">
        {axes.map((axis) => (
          <AxisField key={axis} path={[...path, axis]} axis={axis} onFocus={() => setAt(axis)} />
        ))}
      </div>
      {within && at !== '' ? <TryValues path={[...path, at]} of={` of ${at}`} /> : null}
    </fieldset>
  );
}

function AxisField({ path, axis, onFocus }: { path: Path; axis: string; onFocus: () => void }) {
  const { handle } = useContext(ShotContext);
  const id = useId();
  const field = fieldAt(path);
  const value = read(handle.shot.document, path);
  const keyed = typeof value === 'object' && value !== null;
  return (
    <div
      role="presentation"
      className="flex min-w-0 flex-1 items-center"
      title={field.description}
      data-field={path.join('/')}
      onFocus={onFocus}
    >
      <label htmlFor={id} className={`pr-1 ${keyed ? 'text-teal' : 'text-ink-2'}`}>
        {axis}
      </label>
      <KeyedNumber
        id={id}
        path={path}
        field={field}
        value={value}
        narrow
        onChange={(next) => handle.edit((doc) => write(doc, path, next))}
      />
    </div>
  );
}
