import { useContext, useId } from 'react';
import { fieldAt, holds, type FieldSchema } from '../api/schema';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import { Slider } from '../ui/controls';
import { controlFor } from './registry';
import { TryValues } from './TryValues';
import { useWithin } from './useWithin';

type Values = Record<string, unknown>;

/** Whether the field matters with the other settings as they are. */
export function applies(field: FieldSchema, path: Path, document: unknown): boolean {
  const when = field['x-when'];
  if (field['x-hidden'] || (field['x-later'] && path.at(-2) === 0)) return false;
  // What stands in a list of the shot is a whole of its own.
  const top = path.length > 2 ? read(document, path.slice(0, 2)) : document;
  return !when || holds(when, (read(document, path.slice(0, -1)) ?? {}) as Values, (top ?? {}) as Values);
}

/** One setting: label left, value right, unit in the value, help on focus. Everything about it comes from the schema. */
export function Field({ path }: { path: Path }) {
  const { handle } = useContext(ShotContext);
  const id = useId();
  const { within, follow } = useWithin();
  const field = fieldAt(path);
  const document = handle.shot.document;
  if (!applies(field, path, document)) return null;
  const value = read(document, path);
  const { control: Control, whole } = controlFor(field);
  const change = (next: unknown) => handle.edit((doc) => write(doc, path, next));
  const props = { id, path, field, value, onChange: change };
  if (whole) return <Control {...props} />;
  const keyed = typeof value === 'object' && value !== null && 'keys' in value;
  return (
    <div role="presentation" className="py-[3px]" data-field={path.join('/')} {...follow}>
      <div className="flex min-h-7 items-center justify-between gap-2">
        <label htmlFor={id} className={keyed ? 'text-teal' : ''} title={field.description}>
          {field.title}
        </label>
        <span className="flex items-center gap-1">
          <Control {...props} />
        </span>
      </div>
      {field['x-wide'] && typeof value === 'number' ? (
        <Slider
          label={field.title}
          min={field.minimum ?? 0}
          max={field['x-soft-maximum'] ?? field.maximum ?? 1}
          step={field['x-step'] ?? 1}
          value={value}
          onChange={change}
        />
      ) : null}
      <p id={`${id}-help`} className={within ? 'mt-0.5 text-[12px] text-ink-2' : 'sr-only'}>
        {field.description}
      </p>
      {within ? <TryValues path={path} /> : null}
    </div>
  );
}
