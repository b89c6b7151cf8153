import { Diamond } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useContext } from 'react';
import { keyChoices, type FieldSchema } from '../api/schema';
import type { Animatable } from '../api/types';
import { ShotContext } from '../shot/context';
import { read, write, type Path } from '../state/document';
import { keyFrame, movedTo, type Key } from '../state/keys';
import { numberAt } from '../state/numbers';
import { useFrame } from '../state/frame';
import { Button, IconButton } from '../ui/controls';
import { Select } from '../ui/Select';
import { BezierField, SMOOTH, type Handles } from './BezierField';
import { CurveView } from './CurveView';
import { NumberField } from './NumberField';

/** Columns: where a key stands, frames, value, how it goes on, and a way to be rid of it. */
const ROW = 'grid grid-cols-[110px_72px_84px_140px_24px] items-center gap-1.5';
const EASES = keyChoices('key', 'ease');
const ENDS = [
  ['before', 'Before the first', keyChoices('keys', 'before')],
  ['after', 'After the last', keyChoices('keys', 'after')],
] as const;

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
  const { handle, numbers } = useContext(ShotContext);
  const frame = useFrame();
  const values = numbers[`/${path.join('/')}`];
  const value = read(handle.shot.document, path) as Animatable;
  const keys: Key[] = typeof value === 'number' ? [] : value.keys;
  const cues = handle.shot.document.cues;
  const put = (next: Key[]) =>
    handle.edit((doc) =>
      write(
        doc,
        path,
        next.length > 0
          ? { ...(typeof value === 'number' ? {} : value), keys: next }
          : typeof value === 'number'
            ? value
            : (value.keys[0]?.value ?? 0),
      ),
    );
  const change = (index: number, key: Key) => put(keys.map((old, k) => (k === index ? key : old)));
  const inTime = keys
    .map((key, index) => ({ key, index }))
    .sort((a, b) => keyFrame(a.key, cues) - keyFrame(b.key, cues));
  const taken = (at: number) => keys.some((key) => keyFrame(key, cues) === at);
  const addAt = (at: number) => {
    if (taken(at)) return;
    const number = numberAt(numbers, handle.shot.document, path, at);
    put([...keys, { frame: at, value: number, ease: 'smooth' } as unknown as Key]);
  };

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
          className="z-40 w-[482px] rounded-md border border-line bg-card p-3 shadow-xl"
        >
          <p className="mb-2 font-semibold">{field.title} over time</p>
          {keys.length === 0 ? (
            <p className="mb-2 text-ink-2">
              One value for the whole shot. A key here makes it change over time.
            </p>
          ) : null}
          {values && keys.length > 0 ? (
            <CurveView
              path={path}
              field={field}
              values={values}
              keys={keys.map((key, index) => ({ index, frame: keyFrame(key, cues), value: key.value }))}
              onMove={({ index, frame: to, value: number }) => {
                const key = keys[index];
                if (key) change(index, { ...movedTo(key, to, cues), value: number });
              }}
              onAdd={addAt}
            />
          ) : null}
          {keys.length > 0 ? (
            <p className={`${ROW} text-[12px] text-ink-2`} aria-hidden>
              <span>stands at</span>
              <span>frames</span>
              <span>value{field['x-unit'] ? `, ${field['x-unit']}` : ''}</span>
              <span>then</span>
            </p>
          ) : null}
          <ul className="max-h-72 space-y-1 overflow-y-auto">
            {inTime.map(({ key, index }) => (
              <li key={index} className={ROW}>
                <Select
                  id={`at-${index}`}
                  narrow
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
                <span className="flex">
                  <NumberField
                    narrow
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
                </span>
                <span className="flex">
                  <NumberField
                    narrow
                    id={`value-${index}`}
                    label={field.title}
                    value={key.value}
                    min={field.minimum ?? -1e9}
                    max={field.maximum ?? 1e9}
                    step={field['x-step'] ?? 0.1}
                    unit={field['x-unit']}
                    onChange={(number) => change(index, { ...key, value: number })}
                  />
                </span>
                <Select
                  id={`ease-${index}`}
                  narrow
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
                {key.ease === 'curve' ? (
                  <div className="col-span-5">
                    <BezierField
                      label={`Key ${index + 1}`}
                      value={(key.handles as Handles | undefined) ?? SMOOTH}
                      onChange={(handles) => change(index, { ...key, handles })}
                    />
                  </div>
                ) : null}
              </li>
            ))}
          </ul>
          {keys.length > 1 && typeof value !== 'number' ? (
            <div className="mt-2 flex items-center gap-2 text-ink-2">
              {ENDS.map(([name, label, options]) => (
                <label key={name} className="flex items-center gap-1.5">
                  {label}
                  <Select
                    id={`${name}-${path.join('-')}`}
                    label={label}
                    value={(value[name] as string | undefined) ?? 'hold'}
                    options={options}
                    onChange={(next) =>
                      handle.edit((doc) => write(doc, path, { ...(read(doc, path) as object), [name]: next }))
                    }
                  />
                </label>
              ))}
            </div>
          ) : null}
          <div className="mt-3 flex gap-2">
            <Button disabled={taken(frame)} onClick={() => addAt(frame)}>
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
