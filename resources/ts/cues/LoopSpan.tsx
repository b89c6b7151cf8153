import { X } from 'lucide-react';
import { useState } from 'react';
import { useView } from '../state/view';
import { whileHeld } from '../ui/pointer';
import { between, within, type Span } from './span';

/** Room for what it says. */
const ROOM = 76;

/** The frames that are looped, on the ruler: its ends are dragged, a drag with Shift over the ruler chooses others. */
export function LoopSpan({
  x,
  at,
  last,
  height,
}: {
  x: (frame: number) => number;
  at: (clientX: number) => number;
  last: number;
  height: number;
}) {
  const span = within(
    useView((view) => view.span),
    last,
  );
  const [moved, setMoved] = useState<Span | null>(null);
  const shown = moved ?? span;
  if (!shown) return null;
  const [left, right] = [x(shown.from), x(shown.to)];
  const set = (next: Span | null) => useView.getState().set({ span: next });
  const end = (which: 'from' | 'to') => (
    <div
      role="slider"
      tabIndex={0}
      aria-label={which === 'from' ? 'Loop begins' : 'Loop ends'}
      aria-valuemin={1}
      aria-valuemax={last}
      aria-valuenow={shown[which]}
      className="absolute top-0 w-2 -translate-x-1 cursor-col-resize rounded-sm bg-teal"
      style={{ left: which === 'from' ? left : right, height }}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        const other = which === 'from' ? shown.to : shown.from;
        let next: Span | null = shown;
        whileHeld(
          (now) => setMoved((next = between(at(now.clientX), other) ?? next)),
          () => {
            setMoved(null);
            set(next);
          },
        );
      }}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        const frame = Math.min(last, Math.max(1, shown[which] + by));
        set(
          which === 'from'
            ? between(Math.min(frame, shown.to - 1), shown.to)
            : between(shown.from, Math.max(frame, shown.from + 1)),
        );
      }}
    />
  );
  return (
    <div data-testid="loop-span">
      <div
        className="pointer-events-none absolute top-0 bg-teal/25"
        style={{ left, width: right - left, height }}
      />
      {end('from')}
      {end('to')}
      <button
        type="button"
        aria-label={`Loop all instead of ${shown.from} to ${shown.to}`}
        className="absolute top-0 flex h-5 cursor-pointer items-center rounded-sm bg-teal px-1 text-[11px] text-paper"
        style={{ left: Math.min(right + 6, x(last) - ROOM) }}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => set(null)}
      >
        {shown.from} to {shown.to} <X size={11} />
      </button>
    </div>
  );
}
