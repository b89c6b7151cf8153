import { useRef, useState } from 'react';
import { whileHeld } from '../ui/pointer';

/** Control points: time from 0 to 1, and how far it has got by then. */
export type Handles = [[number, number], [number, number]];

export const SMOOTH: Handles = [
  [0.42, 0],
  [0.58, 1],
];
const SIZE = 96;
/** Room above and below, so that a curve may overshoot. */
const ROOM = 28;

const across = (x: number) => 8 + x * (SIZE - 16);
const down = (y: number) => ROOM + (SIZE - 16) * (1 - y);
const round = (value: number) => Math.round(value * 100) / 100;

/** How a key goes on to the next one: a curve with two handles to drag, or to move by the arrow keys. */
export function BezierField({
  value,
  label,
  onChange,
}: {
  value: Handles;
  label: string;
  onChange: (value: Handles) => void;
}) {
  const box = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<Handles | null>(null);
  const shown = dragged ?? value;
  const moved = (k: number, x: number, y: number) =>
    value.map((old, n) =>
      n === k ? [round(Math.min(1, Math.max(0, x))), round(Math.min(3, Math.max(-2, y)))] : old,
    ) as Handles;
  const [[x1, y1], [x2, y2]] = shown;
  const height = SIZE - 16 + 2 * ROOM;
  return (
    <svg
      ref={box}
      viewBox={`0 0 ${SIZE} ${height}`}
      width={SIZE}
      height={height}
      className="touch-none rounded-md border border-line bg-paper"
    >
      <rect
        x={across(0)}
        y={down(1)}
        width={SIZE - 16}
        height={SIZE - 16}
        className="fill-none stroke-line"
      />
      <path
        d={`M${across(0)} ${down(0)} C${across(x1)} ${down(y1)} ${across(x2)} ${down(y2)} ${across(1)} ${down(1)}`}
        className="fill-none stroke-ink"
        strokeWidth={1.5}
      />
      {shown.map(([x, y], k) => (
        <g key={k}>
          <line x1={across(k)} y1={down(k)} x2={across(x)} y2={down(y)} className="stroke-teal" />
          <circle
            cx={across(x)}
            cy={down(y)}
            r={5}
            role="slider"
            tabIndex={0}
            aria-label={`${label}: handle ${k + 1}`}
            aria-valuenow={y}
            aria-valuetext={`${x}, ${y}`}
            className="cursor-grab fill-teal stroke-paper"
            onPointerDown={(event) => {
              const frame = box.current?.getBoundingClientRect();
              if (!frame || event.button !== 0) return;
              let now = value;
              whileHeld(
                (held) =>
                  setDragged(
                    (now = moved(
                      k,
                      (held.clientX - frame.left - 8) / (SIZE - 16),
                      1 - (held.clientY - frame.top - ROOM) / (SIZE - 16),
                    )),
                  ),
                () => {
                  setDragged(null);
                  if (now !== value) onChange(now);
                },
              );
            }}
            onKeyDown={(event) => {
              const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
                event.key
              ];
              if (!way) return;
              event.preventDefault();
              const step = event.shiftKey ? 0.1 : 0.02;
              onChange(moved(k, x + step * (way[0] ?? 0), y + step * (way[1] ?? 0)));
            }}
          />
        </g>
      ))}
    </svg>
  );
}
