import { Diamond } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useContext } from 'react';
import type { FieldSchema } from '../api/schema';
import type { Animatable } from '../api/types';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import { keyFrame, valueNear, withValueAt, type Key } from '../state/keys';
import { useFrame } from '../state/frame';
import { Button, IconButton } from '../ui/controls';
import { Select } from '../ui/Select';
import { NumberField } from './NumberField';

const EASES: [string, string][] = [
  ['linear', 'even'],
  ['smooth', 'smooth'],
  ['in', 'starts slowly'],
  ['out', 'ends slowly'],
  ['hold', 'holds, jumps'],
];

/** Keys of one number: where they stand (a frame, or a cue plus an offset), their value, how it goes on from there. */
export function KeyButton({
  path,
  field,
  slim,
}: {
  path: Path;
  field: FieldSchema;
  slim?: boolean | undefined;
}) {
  const { handle } = useContext(ShotContext);
  const frame = useFrame();
  const value = read(handle.shot.document, path) as Animatable;
  const keys: Key[] = typeof value === 'number' ? [] : value.keys;
  const cues = handle.shot.document.cues;
  const put = (next: Key[]) =>
    handle.edit((doc) =>
      write(
        doc,
        path,
        next.length > 0 ? { keys: next } : typeof value === 'number' ? value : (value.keys[0]?.value ?? 0),
      ),
    );
  const change = (index: number, key: Key) => put(keys.map((old, k) => (k === index ? key : old)));
  const taken = keys.some((key) => keyFrame(key, cues) === frame);

  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <IconButton
          label={keys.length > 0 ? `${field.title}: ${keys.length} keys` : `Key ${field.title} over time`}
          className={`!h-7 ${slim ? '!w-4' : '!w-6'}`}
        >
          <Diamond size={slim ? 11 : 13} className={keys.length > 0 ? 'fill-teal text-teal' : 'text-ink-2'} />
        </IconButton>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          sideOffset={8}
          collisionPadding={8}
          className="z-40 w-[430px] rounded-md border border-line bg-card p-3 shadow-xl"
        >
          <p className="mb-2 font-semibold">{field.title} over time</p>
          {keys.length === 0 ? (
            <p className="mb-2 text-ink-2">
              One value for the whole shot. A key here makes it change over time.
            </p>
          ) : null}
          <ul className="space-y-1">
            {keys.map((key, index) => (
              <li key={index} className="flex items-center gap-1.5">
                <Select
                  id={`at-${index}`}
                  value={key.cue ?? ''}
                  options={[['', 'frame'], ...cues.map((cue) => [cue.id, cue.name] as [string, string])]}
                  onChange={(cue) =>
                    change(
                      index,
                      (cue
                        ? { cue, offset: 0, value: key.value, ease: key.ease }
                        : { frame, value: key.value, ease: key.ease }) as unknown as Key,
                    )
                  }
                />
                <NumberField
                  id={`frame-${index}`}
                  label={key.cue ? 'frames after the cue' : 'frame'}
                  value={key.cue ? (key.offset ?? 0) : (key.frame ?? 1)}
                  min={-100000}
                  max={100000}
                  step={1}
                  whole
                  unit="f"
                  onChange={(number) =>
                    change(index, { ...key, ...(key.cue ? { offset: number } : { frame: number }) })
                  }
                />
                <NumberField
                  id={`value-${index}`}
                  label={field.title}
                  value={key.value}
                  min={field.minimum ?? -1e9}
                  max={field.maximum ?? 1e9}
                  step={field['x-step'] ?? 0.1}
                  unit={field['x-unit']}
                  onChange={(number) => change(index, { ...key, value: number })}
                />
                <Select
                  id={`ease-${index}`}
                  value={key.ease ?? 'smooth'}
                  options={EASES}
                  onChange={(ease) => change(index, { ...key, ease } as Key)}
                />
                <Button
                  look="quiet"
                  className="!px-2"
                  aria-label={`Delete key ${index + 1}`}
                  onClick={() => put(keys.filter((_, k) => k !== index))}
                >
                  ×
                </Button>
              </li>
            ))}
          </ul>
          <div className="mt-3 flex gap-2">
            <Button
              disabled={taken}
              onClick={() =>
                put(
                  (
                    withValueAt({ keys }, frame, valueNear(value, frame, cues), cues) as Exclude<
                      Animatable,
                      number
                    >
                  ).keys,
                )
              }
            >
              Key at frame {frame}
            </Button>
            {keys.length > 0 ? (
              <Button look="quiet" onClick={() => put([])}>
                One value again
              </Button>
            ) : null}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
