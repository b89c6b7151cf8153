import { useContext } from 'react';
import type { FieldSchema } from '../api/schema';
import type { Animatable } from '../api/types';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import { useFrame } from '../state/frame';
import { withValueAt } from '../state/keys';
import { numberAt } from '../state/numbers';
import type { ControlProps } from './control';
import { KeyButton } from './KeyButton';
import { NumberField } from './NumberField';

/** The other number gives way where one would pass it; what changes over time is left as it is keyed. */
function inOrder<T>(doc: T, path: Path, field: FieldSchema, value: number): T {
  const { below, above } = field['x-order'] ?? {};
  const other = [...path.slice(0, -1), below ?? above ?? ''];
  const stands = read(doc, other);
  const passed = typeof stands === 'number' && (below ? value > stands : above ? value < stands : false);
  return passed ? write(doc, other, value) : doc;
}

/** A number; if it may change over time, what it is at the frame one looks at. */
export function KeyedNumber({ id, path, field, value, narrow }: ControlProps & { narrow?: boolean }) {
  const { handle, numbers } = useContext(ShotContext);
  const keyed = typeof value === 'object' && value !== null;
  // Only what changes over time is drawn anew as the frame changes, and not while it plays.
  const frame = useFrame(keyed);
  return (
    <>
      <NumberField
        id={id}
        label={field.title}
        value={
          // Between keys, no more digits than one would type.
          keyed ? Number(numberAt(numbers, handle.shot.document, path, frame).toPrecision(5)) : Number(value)
        }
        min={field.minimum ?? -1e9}
        max={field.maximum ?? 1e9}
        step={field['x-step'] ?? 0.1}
        unit={field['x-unit']}
        narrow={narrow}
        standard={typeof field.default === 'number' ? field.default : undefined}
        whole={field.type === 'integer'}
        describedBy={narrow ? undefined : `${id}-help`}
        onChange={(next) =>
          handle.edit((doc) =>
            inOrder(
              write(doc, path, withValueAt(read(doc, path) as Animatable, frame, next, doc.cues)),
              path,
              field,
              next,
            ),
          )
        }
      />
      {field['x-animatable'] ? <KeyButton path={path} field={field} slim={narrow} /> : null}
    </>
  );
}
