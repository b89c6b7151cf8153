import { useRef, useState } from 'react';
import { Button } from '../ui/controls';
import { whileHeld } from '../ui/pointer';
import type { ControlProps } from './control';
import { NumberField } from './NumberField';
import { isEnd, isRing, kindOf, moved, outlineFrom, viewOf, type Point } from './profile';

const WIDTH = 272;
const HEIGHT = 220;
const LEAST = 3;

/**
 * The outline that is turned about the upright axis, as one sees the shape from the side: points are dragged, a press on a line
 * puts one there, Delete or a double click takes one away, arrow keys move the chosen one. Or as numbers, a line each.
 */
export function ProfileField({ id, path, field, value, onChange }: ControlProps) {
  const points = value as Point[];
  const box = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [dragged, setDragged] = useState<Point[] | null>(null);
  const [typing, setTyping] = useState(false);
  const shown = dragged ?? points;
  // While one drags the view stands still.
  const view = viewOf(points, WIDTH, HEIGHT);
  const most = field.maxItems ?? 200;
  const limits = field.items?.items;
  const picked = chosen === null ? undefined : shown[chosen];

  const place = (event: { clientX: number; clientY: number }): Point => {
    const frame = box.current?.getBoundingClientRect();
    if (!frame) return [0, 0];
    return view.at(
      ((event.clientX - frame.left) * WIDTH) / frame.width,
      ((event.clientY - frame.top) * HEIGHT) / frame.height,
    );
  };
  const take = (k: number) => {
    if (points.length <= LEAST) return;
    setChosen(null);
    onChange(points.filter((_, n) => n !== k));
  };
  /** Follows the pointer; what was there before it moved is kept if it does not. */
  const drag = (from: Point[], k: number, added: boolean) => {
    setChosen(k);
    let now = from;
    if (added) setDragged(now);
    whileHeld(
      (held) => setDragged((now = moved(from, k, place(held), view))),
      () => {
        setDragged(null);
        if (added || now !== from) onChange(now);
      },
    );
  };
  const sides: [from: Point, to: Point, after: number][] = shown
    .slice(1)
    .map((to, k) => [shown[k] as Point, to, k]);
  if (isRing(shown)) sides.push([shown.at(-1) as Point, shown[0] as Point, shown.length - 1]);
  const outline = (mirrored: 1 | -1) =>
    shown.map(([r, h], k) => `${k > 0 ? 'L' : 'M'}${view.across(mirrored * r)} ${view.down(h)}`).join('') +
    (isRing(shown) ? 'Z' : '');

  return (
    <fieldset className="py-1" data-field={path.join('/')} aria-describedby={`${id}-help`}>
      <legend className="flex min-h-7 w-full items-center justify-between gap-2" title={field.description}>
        {field.title}
        <Button look="quiet" className="!h-7 !px-2" onClick={() => setTyping(!typing)}>
          {typing ? 'Drawn' : 'As numbers'}
        </Button>
      </legend>
      {typing ? (
        <Numbers id={id} label={field.title ?? ''} points={points} onChange={onChange} />
      ) : (
        <>
          <svg
            ref={box}
            viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
            className="w-full touch-none rounded-md border border-line bg-paper"
            role="group"
            aria-label={`${field.title}: ${kindOf(shown)}`}
          >
            <line
              x1={view.across(0)}
              x2={view.across(0)}
              y1={4}
              y2={HEIGHT - 4}
              className="stroke-line"
              strokeDasharray="5 4"
            />
            {kindOf(shown) === 'an open shape' ? null : (
              <g className="fill-ink/10">
                <path d={outline(1)} />
                <path d={outline(-1)} />
              </g>
            )}
            <path d={outline(-1)} className="fill-none stroke-ink-2/50" strokeWidth={1.5} />
            {sides.map(([from, to, after]) => {
              const ends = {
                x1: view.across(from[0]),
                y1: view.down(from[1]),
                x2: view.across(to[0]),
                y2: view.down(to[1]),
              };
              return (
                <g key={after}>
                  <line {...ends} className="stroke-ink" strokeWidth={1.5} />
                  <line
                    {...ends}
                    className="cursor-copy stroke-transparent"
                    strokeWidth={12}
                    data-side={after}
                    onPointerDown={(event) => {
                      if (event.button !== 0 || points.length >= most) return;
                      const k = after + 1;
                      const added = [...points.slice(0, k), place(event), ...points.slice(k)];
                      drag(moved(added, k, place(event), view), k, true);
                    }}
                  />
                </g>
              );
            })}
            {shown.map(([r, h], k) => (
              <circle
                key={k}
                cx={view.across(r)}
                cy={view.down(h)}
                r={chosen === k ? 6 : 5}
                role="slider"
                tabIndex={0}
                aria-label={`Point ${k + 1} of ${field.title}`}
                aria-valuenow={r}
                aria-valuetext={`radius ${r} m, height ${h} m`}
                className={`cursor-grab stroke-paper ${chosen === k ? 'fill-teal' : 'fill-ink'}`}
                strokeWidth={1.5}
                onFocus={() => setChosen(k)}
                onPointerDown={(event) => event.button === 0 && drag(points, k, false)}
                onDoubleClick={() => take(k)}
                onKeyDown={(event) => {
                  const step = view.grain * (event.shiftKey ? 10 : 1);
                  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
                    event.key
                  ];
                  if (way) {
                    event.preventDefault();
                    event.stopPropagation();
                    const to: Point = [r + step * (way[0] ?? 0), h + step * (way[1] ?? 0)];
                    onChange(moved(points, k, to, view));
                  } else if (event.key === 'Delete' || event.key === 'Backspace') {
                    event.preventDefault();
                    event.stopPropagation();
                    take(k);
                  }
                }}
              />
            ))}
          </svg>
          {picked && chosen !== null ? (
            <div className="mt-1 flex items-center gap-1 text-ink-2">
              {(['radius', 'height'] as const).map((name, axis) => (
                <label key={name} htmlFor={`${id}-${name}`} className="contents">
                  {name}
                  <NumberField
                    id={`${id}-${name}`}
                    label={`Point ${chosen + 1}: ${name}`}
                    value={picked[axis] as number}
                    min={axis > 0 ? (limits?.minimum ?? -1000) : isEnd(points, chosen) ? 0 : view.grain}
                    max={limits?.maximum ?? 1000}
                    step={view.grain}
                    unit="m"
                    narrow
                    onChange={(number) =>
                      onChange(
                        points.map((old, n) =>
                          n !== chosen ? old : axis === 0 ? [number, old[1]] : [old[0], number],
                        ),
                      )
                    }
                  />
                </label>
              ))}
            </div>
          ) : null}
          <p className="mt-0.5 flex items-center justify-between text-[12px] text-ink-2">
            {picked
              ? `Turned, it is ${kindOf(shown)}. In metres.`
              : 'Drag points; press on a line to put one there.'}
            {picked && chosen !== null ? (
              <Button
                look="quiet"
                className="!h-7 !px-2"
                disabled={points.length <= LEAST}
                onClick={() => take(chosen)}
              >
                Take away
              </Button>
            ) : null}
          </p>
        </>
      )}
      <p id={`${id}-help`} className="sr-only">
        {field.description}
      </p>
    </fieldset>
  );
}

interface NumbersProps {
  id: string;
  label: string;
  points: Point[];
  onChange: (points: Point[]) => void;
}

function Numbers({ id, label, points, onChange }: NumbersProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const commit = () => {
    if (text === null) return;
    const read = outlineFrom(text);
    if (typeof read === 'string') return setWrong(read);
    setWrong('');
    setText(null);
    onChange(read);
  };
  return (
    <>
      <textarea
        id={id}
        rows={8}
        aria-label={`${label}: radius and height of each point in m`}
        value={text ?? points.map((point) => point.join(' ')).join('\n')}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        className={`w-full rounded-md border bg-paper px-2 py-1 ${wrong ? 'border-error' : 'border-line'}`}
      />
      <p className={`text-[12px] ${wrong ? 'text-error' : 'text-ink-2'}`}>
        {wrong || 'Radius and height of a point in each line, in metres.'}
      </p>
    </>
  );
}
