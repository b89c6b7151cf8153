import { useEffect, useRef, type ReactNode } from 'react';
import uPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';
import { clock } from '../state/frame';
import { exact, grouped } from './units';

interface Props {
  title: string;
  unit: string;
  /** The unit of just one; else the same. */
  one?: string;
  frames: number[];
  /** Null where it is not known yet. */
  values: (number | null)[];
  /** The same of each that it is compared with. */
  others?: (number | null)[][];
  /** Where the scale ends; else with the largest value. */
  top?: number;
  last: number;
  colour: string;
  filled?: boolean;
  /** Beside the title. */
  action?: ReactNode;
}

/** One small plot over the frames, with the cursor of the cue strip. */
export function Plot({
  title,
  unit,
  one = unit,
  frames,
  values,
  others,
  top,
  last,
  colour,
  filled,
  action,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const plot = useRef<uPlot | null>(null);
  const number = useRef<HTMLSpanElement>(null);
  const count = others?.length ?? 0;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const style = getComputedStyle(document.documentElement);
    const token = (name: string) => style.getPropertyValue(name).trim();
    const axis = {
      stroke: token('--ink-2'),
      grid: { stroke: token('--line'), width: 0.5 },
      ticks: { show: false },
      font: '11px Commissioner Variable',
    };
    const made = new uPlot(
      {
        width: element.clientWidth,
        height: 92,
        padding: [6, 14, 0, 0],
        cursor: { show: false },
        legend: { show: false },
        scales: {
          x: { time: false, range: [1, last] },
          y: { range: (_, __, max) => [0, top ?? (max > 0 ? max * 1.08 : 1)] },
        },
        axes: [
          { ...axis, size: 18, space: 50 },
          {
            ...axis,
            size: 42,
            space: 26,
            values: (_, ticks) => ticks.map((v) => (v >= 1000 ? `${v / 1000}k` : String(v))),
          },
        ],
        series: [
          {},
          {
            stroke: token(colour),
            width: 1.5,
            fill: filled ? `${token(colour)}33` : undefined,
            points: { show: false },
          },
          ...Array.from({ length: count }, () => ({
            stroke: token('--ink'),
            width: 1,
            dash: [3, 3],
            points: { show: false },
          })),
        ],
      },
      [[], [], ...Array.from({ length: count }, () => [])],
      element,
    );
    plot.current = made;
    // The cursor is an element of its own: the plot is not drawn anew at every frame.
    const line = document.createElement('div');
    line.className = 'absolute inset-y-0 w-px bg-rust';
    line.dataset['cursor'] = '';
    made.over.append(line);
    const stop = clock.follow((frame) => {
      line.style.left = `${(100 * (frame - 1)) / Math.max(1, last - 1)}%`;
    });
    return () => {
      stop();
      made.destroy();
    };
  }, [last, colour, filled, top, count]);
  useEffect(() => {
    const lines = [values, ...(others ?? [])];
    const longest = Math.max(...lines.map((line) => line.length));
    const x = frames.length === longest ? frames : Array.from({ length: longest }, (_, k) => k + 1);
    const full = (line: (number | null)[]) => [
      ...line,
      ...Array.from({ length: longest - line.length }, () => null),
    ];
    plot.current?.setData([x, ...lines.map(full)]);
  }, [frames, values, others, count, last, top]);
  useEffect(() => {
    const most = values.reduce<number>((before, value) => Math.max(before, value ?? 0), 0);
    const at = (of: (number | null)[], frame: number) =>
      of[Math.max(0, Math.min(of.length - 1, Math.floor(frame) - 1))];
    const said = (value: number | null | undefined) => (value == null ? '–' : grouped(exact(value, most)));
    const [other, more] = others ?? [];
    return clock.follow((frame) => {
      const now = at(values, frame);
      const beside = other && !more ? ` (${said(at(other, frame))})` : '';
      if (number.current) number.current.textContent = `${said(now)}${beside} ${now === 1 ? one : unit}`;
    });
  }, [values, others, unit, one]);
  return (
    <figure className="mb-1">
      <figcaption className="flex justify-between">
        <span>
          {title}
          {action}
        </span>
        <span className="text-ink-2" ref={number} />
      </figcaption>
      <div ref={box} role="img" aria-label={`${title} over the frames`} />
    </figure>
  );
}
