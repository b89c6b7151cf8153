import { Crosshair } from 'lucide-react';
import { useContext, useId, useState } from 'react';
import { fieldAt, holds, type FieldSchema } from '../api/schema';
import type { Animatable } from '../api/types';
import { read, write, type Path } from '../state/document';
import { valueNear, withValueAt } from '../state/keys';
import { useView } from '../state/view';
import { ShotContext } from '../shot/context';
import { Switch } from './controls';
import { FileDrop } from './FileDrop';
import { KeyButton } from './KeyButton';
import { NumberField } from './NumberField';

/** Whether the field matters with the other settings as they are. */
export function applies(field: FieldSchema, siblings: unknown): boolean {
  const when = field['x-when'];
  return !when || holds(when, siblings as Record<string, unknown>);
}

/** One setting: label left, value right, unit in the value, help on focus. Everything about it comes from the schema. */
export function Field({ path }: { path: Path }) {
  const { handle } = useContext(ShotContext);
  const id = useId();
  const [focus, setFocus] = useState(false);
  const frame = useView((view) => Math.round(view.frame));
  const field = fieldAt(path);
  const document = handle.shot.document;
  const value = read(document, path);
  if (!applies(field, read(document, path.slice(0, -1)))) return null;
  if (field['x-vector']) return <VectorField path={path} field={field} />;
  if (field['x-places']) return <PlacesField path={path} field={field} />;
  if (field['x-picture']) return <PictureField path={path} field={field} />;
  const change = (next: unknown) => handle.edit((doc) => write(doc, path, next));
  const keyed = typeof value === 'object' && value !== null && 'keys' in value;

  const control = () => {
    if (field['x-profile']) return <ProfileField id={id} value={value as number[][]} onChange={change} />;
    if (field['x-cue'])
      return (
        <Select
          id={id}
          value={String(value)}
          options={[
            ['', 'choose a cue'],
            ...document.cues.map((cue) => [cue.id, `${cue.name} (${cue.frame} f)`] as [string, string]),
          ]}
          onChange={change}
        />
      );
    if (field.enum)
      return (
        <Select
          id={id}
          value={String(value)}
          options={field.enum.map((option) => [option, field['x-labels']?.[option] ?? option])}
          onChange={change}
        />
      );
    if (field.type === 'boolean') return <Switch id={id} checked={value === true} onChange={change} />;
    if (field['x-colour'])
      return (
        <input
          id={id}
          type="color"
          value={String(value)}
          onChange={(event) => change(event.target.value)}
          className="h-7 w-14 rounded-md border border-line bg-paper"
        />
      );
    if (field.type === 'string')
      return <TextField id={id} field={field} value={String(value)} onChange={change} />;
    const number = valueNear(value as Animatable, frame, document.cues);
    return (
      <NumberField
        id={id}
        label={field.title}
        value={number}
        min={field.minimum ?? -1e9}
        max={field.maximum ?? 1e9}
        step={field['x-step'] ?? 0.1}
        unit={field['x-unit']}
        standard={typeof field.default === 'number' ? field.default : undefined}
        whole={field.type === 'integer'}
        describedBy={`${id}-help`}
        onChange={(next) =>
          handle.edit((doc) =>
            write(doc, path, withValueAt(read(doc, path) as Animatable, frame, next, doc.cues)),
          )
        }
      />
    );
  };

  return (
    <div
      className="py-[3px]"
      data-field={path.join('/')}
      onFocus={() => setFocus(true)}
      onBlur={() => setFocus(false)}
    >
      <div className="flex min-h-7 items-center justify-between gap-2">
        <label htmlFor={id} className={keyed ? 'text-teal' : ''} title={field.description}>
          {field.title}
        </label>
        <span className="flex items-center gap-1">
          {control()}
          {field['x-animatable'] ? <KeyButton path={path} field={field} /> : null}
        </span>
      </div>
      {field['x-wide'] && typeof value === 'number' ? (
        <input
          type="range"
          aria-label={field.title}
          min={field.minimum}
          max={field['x-soft-maximum'] ?? field.maximum}
          step={field['x-step'] ?? 1}
          value={value}
          onChange={(event) => change(Number(event.target.value))}
          className="mt-1 w-full"
        />
      ) : null}
      <p id={`${id}-help`} className={focus ? 'mt-0.5 text-[12px] text-ink-2' : 'sr-only'}>
        {field.description}
      </p>
    </div>
  );
}

function VectorField({ path, field }: { path: Path; field: FieldSchema }) {
  const kind = field['x-pick'];
  return (
    <fieldset className="py-1" data-field={path.join('/')}>
      {kind ? (
        <legend className="flex w-full items-center justify-between gap-2" title={field.description}>
          {field.title}
          <PickButton path={path} kind={kind} label="Pick on the prop" />
        </legend>
      ) : (
        <legend className="sr-only">{field.title}</legend>
      )}
      {kind ? (
        <div className="mt-1 flex gap-1.5">
          {Object.keys(field.properties ?? {}).map((axis) => (
            <AxisField key={axis} path={[...path, axis]} axis={axis} />
          ))}
        </div>
      ) : (
        Object.keys(field.properties ?? {}).map((axis) => <Field key={axis} path={[...path, axis]} />)
      )}
    </fieldset>
  );
}

/** While it is pressed, the next click on the prop says the place or the direction. */
function PickButton({
  path,
  kind,
  label,
}: {
  path: Path;
  kind: 'point' | 'direction' | 'more';
  label: string;
}) {
  const picking = useView((view) => view.picking);
  const set = useView((view) => view.set);
  const active = picking !== null && picking.path.join('/') === path.join('/');
  return (
    <button
      type="button"
      aria-pressed={active}
      data-testid={`pick-${String(path.at(-1))}`}
      className={`inline-flex h-7 items-center gap-1.5 rounded-md border px-2 ${active ? 'border-teal bg-teal-wash text-teal' : 'border-line bg-paper hover:bg-well'}`}
      onClick={() => set({ picking: active ? null : { path, kind } })}
    >
      <Crosshair size={14} /> {active ? 'Click on the prop' : label}
    </button>
  );
}

/** A list of places: each can be picked in the picture. */
function PlacesField({ path, field }: { path: Path; field: FieldSchema }) {
  const { handle } = useContext(ShotContext);
  const places = (read(handle.shot.document, path) as { x: number; y: number; z: number }[]) ?? [];
  return (
    <fieldset className="py-1" data-field={path.join('/')}>
      <legend className="flex w-full items-center justify-between gap-2" title={field.description}>
        {field.title}
        <PickButton path={path} kind="more" label="Pick more" />
      </legend>
      <ol className="mt-1">
        {places.map((place, k) => (
          <li key={k} className="flex items-center justify-between gap-2 py-0.5 tabular-nums">
            <span className="text-ink-2">
              {k + 1}: {place.x.toFixed(3)}, {place.y.toFixed(3)}, {place.z.toFixed(3)} m
            </span>
            <button
              type="button"
              aria-label={`Remove place ${k + 1}`}
              className="rounded-md px-1.5 text-ink-2 hover:bg-well"
              onClick={() =>
                handle.edit((doc) =>
                  write(
                    doc,
                    path,
                    places.filter((_, other) => other !== k),
                  ),
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ol>
    </fieldset>
  );
}

/** A picture that is brought in. */
function PictureField({ path, field }: { path: Path; field: FieldSchema }) {
  const { handle } = useContext(ShotContext);
  const value = read(handle.shot.document, path) as { asset: string; fileName: string };
  return (
    <div className="py-1" data-field={path.join('/')}>
      <p title={field.description}>{field.title}</p>
      <FileDrop
        kind="picture"
        name={value.fileName}
        asset={value.asset}
        onFile={(asset, fileName) => handle.edit((doc) => write(doc, path, { ...value, asset, fileName }))}
      />
    </div>
  );
}

/** One of three numbers that stand side by side. */
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

export function Select({
  id,
  value,
  options,
  onChange,
}: {
  id: string;
  value: string;
  options: [string, string][];
  onChange: (value: string) => void;
}) {
  return (
    <select
      id={id}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="h-7 max-w-[170px] min-w-[118px] rounded-md border border-line bg-paper px-1.5"
    >
      {options.map(([option, label]) => (
        <option key={option} value={option}>
          {label}
        </option>
      ))}
    </select>
  );
}

function TextField({
  id,
  field,
  value,
  onChange,
}: {
  id: string;
  field: FieldSchema;
  value: string;
  onChange: (value: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text !== value && (!field.pattern || new RegExp(field.pattern).test(text)))
      onChange(text);
    setText(null);
  };
  return (
    <input
      id={id}
      value={text ?? value}
      maxLength={field.maxLength}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => event.key === 'Enter' && commit()}
      className="h-7 w-[118px] rounded-md border border-line bg-paper px-2"
    />
  );
}

/** The lathe outline as lines of "radius height". */
function ProfileField({
  id,
  value,
  onChange,
}: {
  id: string;
  value: number[][];
  onChange: (value: number[][]) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const commit = () => {
    if (text === null) return;
    const points = text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
      .map((line) => line.split(/[\s,;]+/).map(Number));
    const bad = points.findIndex(
      (point) => point.length !== 2 || point.some((number) => !Number.isFinite(number)),
    );
    if (bad >= 0) return setWrong(`Line ${bad + 1} needs two numbers: radius and height.`);
    if (points.length < 3) return setWrong('A profile needs at least three points.');
    setWrong('');
    setText(null);
    onChange(points);
  };
  return (
    <span>
      <textarea
        id={id}
        rows={6}
        value={text ?? value.map((point) => point.join(' ')).join('\n')}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        className={`w-[130px] rounded-md border bg-paper px-2 py-1 ${wrong ? 'border-error' : 'border-line'}`}
      />
      {wrong ? <span className="block w-[130px] text-[12px] text-error">{wrong}</span> : null}
    </span>
  );
}
