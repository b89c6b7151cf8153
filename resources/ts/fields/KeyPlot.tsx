import { clock } from '../state/frame';
import { useEffect, useRef } from 'react';

const WIDTH = 404;
const HEIGHT = 64;

/** What a keyed number does over the shot, with its keys and the frame one looks at. */
export function KeyPlot({ values, keys }: { values: number[]; keys: [frame: number, value: number][] }) {
  const cursor = useRef<SVGLineElement>(null);
  const last = values.length;
  const all = [...values, ...keys.map(([, value]) => value)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const x = (frame: number) => 6 + ((frame - 1) / Math.max(1, last - 1)) * (WIDTH - 12);
  const y = (value: number) =>
    high > low ? 6 + ((high - value) / (high - low)) * (HEIGHT - 12) : HEIGHT / 2;
  useEffect(
    () =>
      clock.follow((frame) => {
        const at = String(6 + ((frame - 1) / Math.max(1, last - 1)) * (WIDTH - 12));
        cursor.current?.setAttribute('x1', at);
        cursor.current?.setAttribute('x2', at);
      }),
    [last],
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mb-2 w-full rounded-md border border-line bg-paper"
      role="img"
      aria-label="Its value over the shot"
    >
      <polyline
        points={values.map((value, k) => `${x(k + 1)},${y(value)}`).join(' ')}
        className="fill-none stroke-ink"
        strokeWidth={1.5}
      />
      {keys
        .filter(([frame]) => frame >= 1 && frame <= last)
        .map(([frame, value]) => (
          <path
            key={frame}
            d={`M${x(frame)} ${y(value) - 5}l4 5-4 5-4-5z`}
            className="fill-teal stroke-paper"
          />
        ))}
      <line ref={cursor} y1={0} y2={HEIGHT} className="stroke-rust" />
    </svg>
  );
}
