import { Brush as BrushIcon } from 'lucide-react';
import { useContext, useEffect, useId } from 'react';
import { fieldAt } from '../api/schema';
import { ShotContext } from '../shot/context';
import { brushFor, useBrush, type Brush } from '../state/brush';
import { Button } from '../ui/controls';
import { ChoiceControl } from './ChoiceControl';
import type { ControlProps } from './control';
import { NumberField } from './NumberField';

/** Strokes that are painted in the picture, and the brush for it. */
export function PaintField({ path, field, value, onChange }: ControlProps) {
  const { prop, readouts } = useContext(ShotContext);
  const { painting, brush, sizedFor, set } = useBrush();
  const strokes = value as object[];
  const active = painting?.join('/') === path.join('/');
  const key = path.join('/');
  // Who goes elsewhere has put the brush down.
  useEffect(() => () => useBrush.getState().set({ painting: null }), [key]);
  const bounds = prop ? readouts[prop.id]?.health.bounds : undefined;
  const size = bounds ? Math.max(...[0, 1, 2].map((k) => (bounds[1][k] ?? 0) - (bounds[0][k] ?? 0))) : 0;
  // A brush that was chosen for another prop may be larger than this one.
  const hand = brush && sizedFor === prop?.id ? brush : brushFor(path, size, brush);
  return (
    <fieldset className="py-1" data-field={key}>
      <legend className="flex w-full items-center justify-between gap-2" title={field.description}>
        {strokes.length === 1 ? '1 stroke' : `${strokes.length} strokes`}
        <button
          type="button"
          aria-pressed={active}
          data-testid="paint"
          className={`inline-flex h-7 items-center gap-1.5 rounded-md border px-2 ${active ? 'border-teal bg-teal-wash text-teal' : 'border-line bg-paper hover:bg-well'}`}
          onClick={() =>
            set(active ? { painting: null } : { painting: path, brush: hand, sizedFor: prop?.id ?? '' })
          }
        >
          <BrushIcon size={14} /> {active ? 'Painting' : 'Paint'}
        </button>
      </legend>
      {active ? (
        <div className="mt-1 border-l-2 border-teal pl-2">
          {Object.keys(hand).map((name) => (
            <BrushSetting
              key={name}
              path={[...path, 0, name]}
              value={hand[name as keyof Brush]}
              onChange={(next) => set({ brush: { ...hand, [name]: next } })}
            />
          ))}
        </div>
      ) : null}
      {strokes.length > 0 ? (
        <div className="mt-1 flex gap-2">
          <Button className="!h-7 !px-2" onClick={() => onChange(strokes.slice(0, -1))}>
            Take back the last
          </Button>
          <Button look="quiet" className="!h-7 !px-2" onClick={() => onChange([])}>
            Remove all
          </Button>
        </div>
      ) : null}
    </fieldset>
  );
}

/** A setting of the brush, as the schema has it for a stroke. */
function BrushSetting({
  path,
  value,
  onChange,
}: {
  path: ControlProps['path'];
  value: unknown;
  onChange: (value: unknown) => void;
}) {
  const id = useId();
  const field = fieldAt(path);
  return (
    <div className="flex min-h-7 items-center justify-between gap-2 py-[3px]" data-brush={path.at(-1)}>
      <label htmlFor={id} title={field.description}>
        {field.title}
      </label>
      {field.enum ? (
        <ChoiceControl id={id} path={path} field={field} value={value} onChange={onChange} />
      ) : (
        <NumberField
          id={id}
          label={field.title}
          value={Number(value)}
          min={field.minimum ?? 0}
          max={field.maximum ?? 1}
          step={field['x-step'] ?? 0.1}
          unit={field['x-unit']}
          standard={typeof field.default === 'number' ? field.default : undefined}
          onChange={onChange}
        />
      )}
    </div>
  );
}
