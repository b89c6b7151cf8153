import { X } from 'lucide-react';
import { useContext, useRef } from 'react';
import type { BakeState } from '../api/types';
import { ShotContext } from '../shot/context';
import { bakeName, type Beside } from '../shot/useBeside';
import { useView } from '../state/view';
import { IconButton, Toggle } from '../ui/controls';
import { panesOf } from './panes';

/** Which bake is where in the picture, and the line between two that lie over each other, which can be dragged. */
export function PaneNames({ beside }: { beside: Beside[] }) {
  const { bake } = useContext(ShotContext);
  const set = useView((view) => view.set);
  const split = useView((view) => view.split);
  const divide = useView((view) => view.divide);
  const two = beside.length === 1;
  const over = two && split === 'over';
  const bakes = [bake, ...beside.map((one) => one.bake)];
  const percent = (share: number) => `${100 * share}%`;
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" data-testid="panes">
      {panesOf(bakes.length, over, divide).map((pane, k) => (
        <div
          key={bakes[k]?.id}
          className={`absolute overflow-hidden ${over ? '' : 'border-r border-b border-ink/50'}`}
          style={{
            left: percent(pane.left),
            top: percent(pane.top),
            width: percent(pane.width),
            height: percent(pane.height),
          }}
        >
          <Name bake={bakes[k]} stale={k === 0} side={over && k === 0 ? 'right-3' : 'left-3'} />
        </div>
      ))}
      <div className="pointer-events-auto absolute top-3 left-3 flex items-center text-[12px]">
        {two ? (
          <Toggle
            label="How they are compared"
            value={split}
            options={[
              ['over', 'One over the other'],
              ['apart', 'Side by side'],
            ]}
            onChange={(way) => set({ split: way === 'apart' ? 'apart' : 'over' })}
          />
        ) : null}
        <IconButton label="Stop comparing" keys="X" onClick={() => set({ beside: [] })}>
          <X size={14} />
        </IconButton>
      </div>
      {over ? <Line names={bakes.map((one) => (one ? bakeName(one) : ''))} /> : null}
    </div>
  );
}

/** Keeps both in sight. */
const EDGE = 0.02;

function Line({ names }: { names: string[] }) {
  const divide = useView((view) => view.divide);
  const line = useRef<HTMLDivElement>(null);
  const put = (share: number) =>
    useView.getState().set({ divide: Math.min(1 - EDGE, Math.max(EDGE, share)) });
  return (
    <div
      ref={line}
      role="slider"
      tabIndex={0}
      aria-label="Where the picture is divided"
      aria-valuemin={100 * EDGE}
      aria-valuemax={100 - 100 * EDGE}
      aria-valuenow={Math.round(100 * divide)}
      aria-valuetext={`${names[0]} left of ${Math.round(100 * divide)} % of the width, ${names[1]} right of it`}
      className="pointer-events-auto absolute inset-y-0 w-4 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: `${100 * divide}%` }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        const whole = line.current?.parentElement?.getBoundingClientRect();
        if (whole && event.currentTarget.hasPointerCapture(event.pointerId))
          put((event.clientX - whole.left) / whole.width);
      }}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -EDGE, ArrowRight: EDGE }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        put(divide + step);
      }}
    >
      <div className="mx-auto h-full w-px bg-ink" />
      <div className="absolute top-1/2 left-1/2 h-9 w-2.5 -translate-1/2 rounded-full border border-ink bg-paper" />
    </div>
  );
}

/** What a bake is called in its part; it goes under as the line comes over it. */
function Name({ bake, stale, side }: { bake: BakeState | null | undefined; stale: boolean; side: string }) {
  if (!bake) return null;
  // A trial is another state of the shot by intent.
  const warn = stale && bake.stale && !bake.trial;
  return (
    <p
      className={`absolute bottom-3 rounded-md border bg-card/90 px-2 py-1 text-[12px] whitespace-nowrap ${side} ${warn ? 'border-warn text-warn' : 'border-line'}`}
    >
      {bakeName(bake)}
      {warn ? ', stale' : ''}
    </p>
  );
}
