import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import type { ControlProps } from './control';
import { PickButton } from './PickButton';

/** A list of places: each can be picked in the picture. */
export function PlacesField({ path, field, value }: ControlProps) {
  const { handle } = useContext(ShotContext);
  const places = (value ?? []) as { x: number; y: number; z: number }[];
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
