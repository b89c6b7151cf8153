import { useContext, useId } from 'react';
import { fieldAt } from '../api/schema';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import type { ControlProps } from './control';
import { Field } from './Field';
import { NumberField } from './NumberField';
import { PickButton } from './PickButton';

/** Three numbers side by side; those that may be keyed have a row each. */
export function VectorField({ path, field }: ControlProps) {
  const axes = Object.keys(field.properties ?? {});
  const kind = field['x-pick'];
  const keyable = axes.some((axis) => fieldAt([...path, axis])['x-animatable']);
  return (
    <fieldset className="py-1" data-field={path.join('/')}>
      {kind || !keyable ? (
        <legend className="flex w-full items-center justify-between gap-2" title={field.description}>
          {field.title}
          {kind ? <PickButton path={path} kind={kind} label="Pick on the prop" /> : null}
        </legend>
      ) : (
        <legend className="sr-only">{field.title}</legend>
      )}
      {keyable ? (
        axes.map((axis) => <Field key={axis} path={[...path, axis]} />)
      ) : (
        <div className="mt-1 flex gap-1.5">
          {axes.map((axis) => (
            <AxisField key={axis} path={[...path, axis]} axis={axis} />
          ))}
        </div>
      )}
    </fieldset>
  );
}

function AxisField({ path, axis }: { path: Path; axis: string }) {
  const { handle } = useContext(ShotContext);
  const id = useId();
  const field = fieldAt(path);
  return (
    <label
      className="flex min-w-0 flex-1 items-center gap-1"
      htmlFor={id}
      title={field.description}
      data-field={path.join('/')}
    >
      {axis}
      <NumberField
        id={id}
        label={field.title}
        value={Number(read(handle.shot.document, path))}
        min={field.minimum ?? -1e9}
        max={field.maximum ?? 1e9}
        step={field['x-step'] ?? 0.1}
        unit={field['x-unit']}
        standard={typeof field.default === 'number' ? field.default : undefined}
        narrow
        onChange={(next) => handle.edit((doc) => write(doc, path, next))}
      />
    </label>
  );
}
