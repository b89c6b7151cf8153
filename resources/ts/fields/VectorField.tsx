import { useContext, useId } from 'react';
import { fieldAt } from '../api/schema';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import type { ControlProps } from './control';
import { KeyedNumber } from './KeyedNumber';
import { PickButton } from './PickButton';

/** Three numbers side by side; each may be keyed by itself. */
export function VectorField({ path, field }: ControlProps) {
  const axes = Object.keys(field.properties ?? {});
  const kind = field['x-pick'];
  const unit = fieldAt([...path, axes[0] ?? ''])['x-unit'];
  return (
    <fieldset className="py-1" data-field={path.join('/')}>
      <legend className="flex min-h-7 w-full items-center justify-between gap-2" title={field.description}>
        <span>
          {field.title} <span className="text-[12px] text-ink-2">{unit}</span>
        </span>
        {kind ? <PickButton path={path} kind={kind} label="Pick on the prop" /> : null}
      </legend>
      <div className="flex gap-1">
        {axes.map((axis) => (
          <AxisField key={axis} path={[...path, axis]} axis={axis} />
        ))}
      </div>
    </fieldset>
  );
}

function AxisField({ path, axis }: { path: Path; axis: string }) {
  const { handle } = useContext(ShotContext);
  const id = useId();
  const field = fieldAt(path);
  const value = read(handle.shot.document, path);
  const keyed = typeof value === 'object' && value !== null;
  return (
    <div className="flex min-w-0 flex-1 items-center" title={field.description} data-field={path.join('/')}>
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
