import { curveMonotoneX, line } from 'd3-shape';
import { useRef, useState } from 'react';
import { Button } from '../ui/controls';
import { whileHeld } from '../ui/pointer';
import type { ControlProps } from './control';
import { NumberField } from './NumberField';

const WIDTH = 272;
const HEIGHT = 120;
const MOST = 24;
/** Points keep this far apart from left to right. */
const APART = 0.01;

type Point = [number, number];

const across = (x: number) => 6 + x * (WIDTH - 12);
const down = (y: number) => HEIGHT - 6 - y * (HEIGHT - 12);
const path = line(
  (p) => across(p[0]),
  (p) => down(p[1]),
).curve(curveMonotoneX);
const round = (value: number) => Math.round(value * 1000) / 1000;
const limited = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** A curve through points one can drag; a click on it adds one, Delete or a double click takes one away. Arrow keys move the chosen one. */
export function CurveField({ id, path: at, field, value, onChange }: ControlProps) {
  const points = value as Point[];
  const box = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [dragged, setDragged] = useState<Point[] | null>(null);
  const shown = dragged ?? points;
  const plain = points.length === 2 && points.every(([x, y]) => x === y);

  const moved = (k: number, x: number, y: number): Point[] => {
    const low = k === 0 ? 0 : (shown[k - 1]?.[0] ?? 0) + APART;
    const high = k === shown.length - 1 ? 1 : (shown[k + 1]?.[0] ?? 1) - APART;
    return shown.map((old, n) => (n === k ? [round(limited(x, low, high)), round(limited(y, 0, 1))] : old));
  };
  const place = (event: { clientX: number; clientY: number }): Point => {
    const frame = box.current?.getBoundingClientRect();
    if (!frame) return [0, 0];
    return [
      (event.clientX - frame.left - 6) / (frame.width - 12),
      1 - (event.clientY - frame.top - 6) / (frame.height - 12),
    ];
  };
  const take = (k: number) => {
    if (points.length <= 2) return;
    setChosen(null);
    onChange(points.filter((_, n) => n !== k));
  };
  const add = (x: number, y: number) => {
    const free = points.every((point) => Math.abs(point[0] - x) >= APART);
    if (points.length >= MOST || x < 0 || x > 1 || !free) return;
    const next = [...points, [round(x), round(limited(y, 0, 1))] as Point].sort((a, b) => a[0] - b[0]);
    setChosen(next.findIndex((point) => point[0] === round(x)));
    onChange(next);
  };
  const picked = chosen === null ? undefined : shown[chosen];

  return (
    <fieldset className="py-1" data-field={at.join('/')} aria-describedby={`${id}-help`}>
      <legend className="flex min-h-7 w-full items-center justify-between gap-2" title={field.description}>
        {field.title}
        {plain ? null : (
          <Button look="quiet" className="!h-7 !px-2" onClick={() => onChange(field.default)}>
            Straight again
          </Button>
        )}
      </legend>
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full cursor-crosshair touch-none rounded-md border border-line bg-paper"
        onPointerDown={(event) => {
          if (event.target === event.currentTarget && event.button === 0) add(...place(event));
        }}
      >
        {[0.25, 0.5, 0.75].map((share) => (
          <g key={share} className="pointer-events-none stroke-line">
            <line x1={across(share)} x2={across(share)} y1={down(0)} y2={down(1)} />
            <line x1={across(0)} x2={across(1)} y1={down(share)} y2={down(share)} />
          </g>
        ))}
        <path
          d={
            path([
              [0, shown[0]?.[1] ?? 0],
              ...shown.filter(([x]) => x > 0),
              [1.0001, shown.at(-1)?.[1] ?? 1],
            ]) ?? ''
          }
          className="pointer-events-none fill-none stroke-ink"
          strokeWidth={1.5}
        />
        {shown.map(([x, y], k) => (
          <circle
            key={k}
            cx={across(x)}
            cy={down(y)}
            r={chosen === k ? 6 : 5}
            role="slider"
            tabIndex={0}
            aria-label={`Point ${k + 1} of ${field.title}`}
            aria-valuenow={y}
            aria-valuetext={`${x} to ${y}`}
            className={`cursor-grab stroke-paper ${chosen === k ? 'fill-teal' : 'fill-ink'}`}
            strokeWidth={1.5}
            onFocus={() => setChosen(k)}
            onPointerDown={(event) => {
              if (event.button !== 0) return;
              setChosen(k);
              let now = points;
              whileHeld(
                (held) => setDragged((now = moved(k, ...place(held)))),
                () => {
                  setDragged(null);
                  if (now !== points) onChange(now);
                },
              );
            }}
            onDoubleClick={() => take(k)}
            onKeyDown={(event) => {
              const step = event.shiftKey ? 0.1 : 0.01;
              const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
                event.key
              ];
              if (way) {
                event.preventDefault();
                onChange(moved(k, x + step * (way[0] ?? 0), y + step * (way[1] ?? 0)));
              } else if (event.key === 'Delete' || event.key === 'Backspace') {
                event.preventDefault();
                take(k);
              }
            }}
          />
        ))}
      </svg>
      {picked && chosen !== null ? (
        <div className="mt-1 flex items-center gap-1 text-ink-2">
          from
          <NumberField
            id={`${id}-x`}
            label={`Point ${chosen + 1}: from`}
            value={picked[0]}
            min={0}
            max={1}
            step={0.01}
            narrow
            onChange={(x) => onChange(moved(chosen, x, picked[1]))}
          />
          to
          <NumberField
            id={`${id}-y`}
            label={`Point ${chosen + 1}: to`}
            value={picked[1]}
            min={0}
            max={1}
            step={0.01}
            narrow
            onChange={(y) => onChange(moved(chosen, picked[0], y))}
          />
          <Button
            look="quiet"
            className="!h-7 !px-2"
            disabled={points.length <= 2}
            onClick={() => take(chosen)}
          >
            Take away
          </Button>
        </div>
      ) : (
        <p className="mt-0.5 text-[12px] text-ink-2">Click to add a point.</p>
      )}
      <p id={`${id}-help`} className="sr-only">
        {field.description}
      </p>
    </fieldset>
  );
}
