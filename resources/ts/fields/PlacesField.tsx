import { Plus, X } from 'lucide-react';
import { useContext } from 'react';
import { fieldAt } from '../api/schema';
import { rounded } from '../handles/things';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import type { ControlProps } from './control';
import { PickButton } from './PickButton';
import { VectorField } from './VectorField';

interface Place {
  x: number;
  y: number;
  z: number;
}

const AXES = ['x', 'y', 'z'] as const;

/** A list of places: each can be picked in the picture, or typed. */
export function PlacesField({ path, field, value }: ControlProps) {
  const { handle } = useContext(ShotContext);
  const places = (value ?? []) as Place[];
  const put = (next: Place[]) => handle.edit((doc) => write(doc, path, next));
  return (
    <fieldset className="py-1" data-field={path.join('/')}>
      <legend className="flex w-full items-center justify-between gap-2" title={field.description}>
        {field.title}
        <PickButton path={path} kind="more" label="Pick more" />
      </legend>
      <ol className="mt-1">
        {places.map((_, k) => (
          <li key={k} className="flex items-end gap-1">
            <div className="min-w-0 flex-1">
              <VectorField
                id={`${path.join('-')}-${k}`}
                path={[...path, k]}
                field={{ ...fieldAt([...path, k]), title: `Place ${k + 1}` }}
                value={places[k]}
                onChange={() => undefined}
              />
            </div>
            <button
              type="button"
              aria-label={`Remove place ${k + 1}`}
              className="mb-1 grid h-7 place-items-center rounded-md px-1 text-ink-2 hover:bg-well"
              onClick={() => put(places.filter((_, other) => other !== k))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ol>
      {places.length < (field.maxItems ?? Infinity) ? (
        <button
          type="button"
          className="flex items-center gap-1 py-1 text-teal underline-offset-2 hover:underline"
          onClick={() => put([...places, onward(places)])}
        >
          <Plus size={14} /> Add a place
        </button>
      ) : null}
    </fieldset>
  );
}

/** As far beyond the last place as that is from the one before. */
function onward(places: Place[]): Place {
  const last = places.at(-1) ?? { x: 0, y: 0, z: 0 };
  const before = places.at(-2) ?? { ...last, x: last.x - 0.5 };
  const [x = 0, y = 0, z = 0] = AXES.map((axis) => rounded(2 * last[axis] - before[axis]));
  return { x, y, z };
}
