import { useContext, useEffect, useRef, useState } from 'react';
import { fieldAt, type FieldSchema } from '../api/schema';
import { ShotContext } from '../shot/context';
import { clock, seek } from '../state/frame';
import type { Path } from '../state/document';
import { whileHeld } from '../ui/pointer';

const WIDTH = 444;
const HEIGHT = 168;
/** Room for the numbers at the left and for the marks of keys at the edges. */
const LEFT = 52;
const EDGE = 10;
/** Further curves differ by how they are dashed. */
const DASHES = ['5 3', '2 3', '9 3 2 3', '1 4'];

export interface PlottedKey {
  index: number;
  frame: number;
  value: number;
}

const tidy = (value: number): string => String(Number(value.toPrecision(4)));

/** What it does per second, at each frame. */
export function speeds(values: number[], fps: number): number[] {
  return values.map((_, k) => {
    const [from, to] = [Math.max(0, k - 1), Math.min(values.length - 1, k + 1)];
    return to > from ? (((values[to] ?? 0) - (values[from] ?? 0)) * fps) / (to - from) : 0;
  });
}

/**
 * What a keyed number does over the shot. Its keys are dragged (to whole frames and the number's own steps; Alt: any value, Shift: one way only) or
 * moved by the arrow keys; a double click puts one. Its speed and other keyed numbers beside it can be laid over it.
 */
export function CurveView({
  path,
  field,
  values,
  keys,
  onMove,
  onAdd,
}: {
  path: Path;
  field: FieldSchema;
  values: number[];
  keys: PlottedKey[];
  onMove: (key: PlottedKey) => void;
  onAdd: (frame: number) => void;
}) {
  const { handle, numbers } = useContext(ShotContext);
  const box = useRef<SVGSVGElement>(null);
  const cursor = useRef<SVGLineElement>(null);
  const [fast, setFast] = useState(false);
  const [beside, setBeside] = useState<string[]>([]);
  const [held, setHeld] = useState<PlottedKey | null>(null);
  const last = Math.max(2, values.length);
  const own = `/${path.join('/')}`;
  const near = `/${path.slice(0, 2).join('/')}/`;
  const others = Object.keys(numbers).filter((pointer) => pointer.startsWith(near) && pointer !== own);
  const seen = beside.flatMap((pointer) => {
    const line = numbers[pointer];
    return line && others.includes(pointer) ? [{ pointer, line, field: fieldAt(pathOf(pointer)) }] : [];
  });

  const unit = field['x-unit'] ?? '';
  const alike = seen.filter((each) => (each.field['x-unit'] ?? '') === unit);
  const scale = scaleOf([...values, ...keys.map((key) => key.value), ...alike.flatMap((each) => each.line)]);
  const x = (frame: number) => LEFT + ((frame - 1) / (last - 1)) * (WIDTH - LEFT - EDGE);
  const y = (value: number, of = scale) =>
    EDGE + ((of.high - value) / (of.high - of.low)) * (HEIGHT - 2 * EDGE);
  const points = (line: number[], of = scale) =>
    line.map((value, k) => `${x(k + 1)},${y(value, of)}`).join(' ');
  const rates = fast ? speeds(values, handle.shot.document.fps) : [];
  const most = rates.reduce((best, rate, k) => (Math.abs(rate) > Math.abs(rates[best] ?? 0) ? k : best), 0);
  const rateScale = scaleOf([...rates, 0]);

  useEffect(
    () =>
      clock.follow((frame) => {
        const at = String(LEFT + ((frame - 1) / (last - 1)) * (WIDTH - LEFT - EDGE));
        cursor.current?.setAttribute('x1', at);
        cursor.current?.setAttribute('x2', at);
      }),
    [last],
  );

  /** Within its limits, at a whole frame that no other key has. */
  const put = (key: PlottedKey, frame: number, value: number, free: boolean): PlottedKey => {
    const step = field['x-step'] ?? 0.1;
    const snapped = free ? value : Math.round(value / step) * step;
    const whole = Math.max(1, Math.round(frame));
    const taken = keys.some((other) => other.index !== key.index && other.frame === whole);
    return {
      ...key,
      frame: taken ? key.frame : whole,
      value: Number(Math.min(field.maximum ?? 1e9, Math.max(field.minimum ?? -1e9, snapped)).toPrecision(6)),
    };
  };
  const drag = (key: PlottedKey, startX: number, startY: number) => {
    const frame = box.current?.getBoundingClientRect();
    if (!frame) return;
    const per = WIDTH / frame.width;
    let now = key;
    whileHeld(
      (event) => {
        const [dx, dy] = [(event.clientX - startX) * per, (event.clientY - startY) * per];
        // One way only: the one that it has gone farther.
        const along = event.shiftKey && Math.abs(dx) < Math.abs(dy) ? 0 : dx;
        const up = event.shiftKey && Math.abs(dx) >= Math.abs(dy) ? 0 : dy;
        now = put(
          key,
          key.frame + (along / (WIDTH - LEFT - EDGE)) * (last - 1),
          key.value - (up / (HEIGHT - 2 * EDGE)) * (scale.high - scale.low),
          event.altKey || up === 0,
        );
        setHeld(now);
      },
      () => {
        setHeld(null);
        if (now.frame !== key.frame || now.value !== key.value) onMove(now);
      },
    );
  };
  const frameAt = (clientX: number): number => {
    const frame = box.current?.getBoundingClientRect();
    const at = frame ? ((clientX - frame.left) * WIDTH) / frame.width : LEFT;
    return Math.min(last, Math.max(1, Math.round(1 + ((at - LEFT) / (WIDTH - LEFT - EDGE)) * (last - 1))));
  };

  return (
    <div className="mb-2">
      {/* Going to a frame, and putting a key there, are on the strip and in the button below for the keyboard. */}
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full touch-none rounded-md border border-line bg-paper select-none"
        role="group"
        aria-label="Its value over the shot"
        onClick={(event) => event.target === event.currentTarget && seek(frameAt(event.clientX))}
        onDoubleClick={(event) => event.target === event.currentTarget && onAdd(frameAt(event.clientX))}
      >
        <g className="pointer-events-none fill-ink-2 text-[11px]">
          <line x1={LEFT} x2={WIDTH - EDGE} y1={y(scale.top)} y2={y(scale.top)} className="stroke-line" />
          <line
            x1={LEFT}
            x2={WIDTH - EDGE}
            y1={y(scale.bottom)}
            y2={y(scale.bottom)}
            className="stroke-line"
          />
          <text x={LEFT - 6} y={y(scale.top) + 4} textAnchor="end">
            {tidy(scale.top)}
          </text>
          {scale.top === scale.bottom ? null : (
            <text x={LEFT - 6} y={y(scale.bottom) + 4} textAnchor="end">
              {tidy(scale.bottom)}
            </text>
          )}
          {fast ? (
            <polyline
              points={points(rates, rateScale)}
              className="fill-none stroke-rust"
              strokeDasharray="3 2"
            />
          ) : null}
          {seen.map((each, k) => (
            <polyline
              key={each.pointer}
              points={points(each.line, alike.includes(each) ? scale : scaleOf(each.line))}
              className="fill-none stroke-ink-2"
              strokeDasharray={DASHES[k % DASHES.length]}
            />
          ))}
          <polyline points={points(values)} className="fill-none stroke-ink" strokeWidth={1.5} />
          <line ref={cursor} y1={0} y2={HEIGHT} className="stroke-rust" />
        </g>
        {keys
          .filter((key) => key.frame >= 1 && key.frame <= last)
          .map((key) => {
            const now = held?.index === key.index ? held : key;
            return (
              <path
                key={key.index}
                d={`M${x(now.frame)} ${y(now.value) - 6}l5 6-5 6-5-6z`}
                role="slider"
                tabIndex={0}
                aria-label={`Key at frame ${key.frame}`}
                aria-valuenow={key.value}
                aria-valuetext={`${tidy(key.value)} ${unit} at frame ${key.frame}`}
                data-curve-key={key.index}
                className="cursor-move fill-teal stroke-paper"
                onPointerDown={(event) => {
                  if (event.button === 0) drag(key, event.clientX, event.clientY);
                }}
                onKeyDown={(event) => {
                  const step = field['x-step'] ?? 0.1;
                  const along = { ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0;
                  const up = { ArrowUp: step, ArrowDown: -step }[event.key] ?? 0;
                  if (along === 0 && up === 0) return;
                  event.preventDefault();
                  event.stopPropagation();
                  onMove(put(key, key.frame + along, key.value + up, up === 0));
                }}
              />
            );
          })}
        {held ? (
          <text
            x={Math.min(WIDTH - 120, x(held.frame) + 9)}
            y={Math.min(HEIGHT - 6, Math.max(14, y(held.value) - 9))}
            className="pointer-events-none fill-ink text-[12px]"
          >
            {tidy(held.value)} {unit} at {held.frame}
          </text>
        ) : null}
      </svg>
      <div className="mt-1 flex flex-wrap items-center gap-1 text-[12px]">
        <Chip on={fast} text="its speed" onClick={() => setFast(!fast)} />
        {others.map((pointer) => (
          <Chip
            key={pointer}
            on={beside.includes(pointer)}
            text={fieldAt(pathOf(pointer)).title.toLowerCase()}
            dash={
              beside.includes(pointer)
                ? DASHES[seen.findIndex((each) => each.pointer === pointer) % DASHES.length]
                : undefined
            }
            onClick={() =>
              setBeside((old) =>
                old.includes(pointer) ? old.filter((each) => each !== pointer) : [...old, pointer],
              )
            }
          />
        ))}
        {fast ? (
          <span className="text-rust" data-testid="fastest">
            fastest {tidy(rates[most] ?? 0)} {unit === '' ? 'a second' : `${unit}/s`} at {most + 1}
          </span>
        ) : null}
      </div>
    </div>
  );
}

function pathOf(pointer: string): Path {
  return pointer
    .slice(1)
    .split('/')
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part));
}

/** From the smallest to the largest, with a little room; what never changes lies in the middle. */
function scaleOf(values: number[]): { low: number; high: number; bottom: number; top: number } {
  const [bottom, top] = [Math.min(...values), Math.max(...values)];
  const room = top > bottom ? 0.06 * (top - bottom) : Math.max(1, Math.abs(top));
  return { low: bottom - room, high: top + room, bottom, top };
}

function Chip({
  on,
  text,
  dash,
  onClick,
}: {
  on: boolean;
  text: string;
  dash?: string | undefined;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`ease inline-flex h-6 items-center gap-1 rounded-md border px-2 ${on ? 'border-teal text-teal' : 'border-line text-ink-2 hover:bg-well'}`}
      onClick={onClick}
    >
      {dash ? (
        <svg width={18} height={4} aria-hidden>
          <line x1={0} x2={18} y1={2} y2={2} className="stroke-ink-2" strokeDasharray={dash} />
        </svg>
      ) : null}
      {text}
    </button>
  );
}
