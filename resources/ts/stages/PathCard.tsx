import { useContext, useId } from 'react';
import { fieldAt } from '../api/schema';
import type { ShotDocument } from '../api/types';
import { Fields } from '../fields/Fields';
import { rounded } from '../handles/things';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import { Switch } from '../ui/controls';

/** The path of a prop. A first one leads from where the prop stands one metre on, and is gone along over the whole shot. */
export function PathCard() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const id = useId();
  const base: Path = ['props', propIndex, 'path'];
  const field = fieldAt([...base, 'on']);
  if (!prop) return null;
  return (
    <>
      <div
        className="flex min-h-7 items-center justify-between gap-2 py-[3px]"
        data-field={[...base, 'on'].join('/')}
      >
        <label htmlFor={id} title={field.description}>
          {field.title}
        </label>
        <Switch
          id={id}
          checked={prop.path.on}
          onChange={(on) =>
            handle.edit((doc) => {
              const changed = write(doc, [...base, 'on'], on);
              return on && prop.path.places.length === 0
                ? started(changed, propIndex)
                : moved(changed, propIndex, on ? -1 : 1);
            })
          }
        />
      </div>
      <Fields base={base} skip={['on']} />
    </>
  );
}

/** Switched off, a prop stays where its path began; switched on again, it is as far beside it as before. What is keyed stays as it is. */
function moved(document: ShotDocument, propIndex: number, by: number): ShotDocument {
  const prop = document.props[propIndex];
  const first = prop?.path.places[0];
  const axes = ['x', 'y', 'z'] as const;
  if (!prop || !first || axes.some((axis) => typeof prop.position[axis] !== 'number')) return document;
  return axes.reduce(
    (doc, axis) =>
      write(
        doc,
        ['props', propIndex, 'position', axis],
        rounded((prop.position[axis] as number) + by * first[axis]),
      ),
    document,
  );
}

function started(document: ShotDocument, propIndex: number): ShotDocument {
  const at: Path = ['props', propIndex];
  const [x, y, z] = ['x', 'y', 'z'].map((axis) => read(document, [...at, 'position', axis]));
  // What is keyed already is kept as what the prop does beside its path.
  const still = typeof x === 'number' && typeof y === 'number' && typeof z === 'number';
  const first = still ? { x: rounded(x), y: rounded(y), z: rounded(z) } : { x: 0, y: 0, z: 0 };
  const placed = write(document, [...at, 'path', 'places'], [first, { ...first, x: rounded(first.x + 1) }]);
  const gone = write(placed, [...at, 'path', 'along'], {
    keys: [
      { frame: 1, value: 0, ease: 'linear' },
      { frame: document.frames, value: 100, ease: 'linear' },
    ],
  });
  return still ? write(gone, [...at, 'position'], { x: 0, y: 0, z: 0 }) : gone;
}
