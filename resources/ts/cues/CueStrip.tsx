import { ChevronFirst, ChevronLast, Pause, Play, Repeat, StepBack, StepForward } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useContext, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { getJson } from '../api/client';
import { chosen } from '../api/schema';
import { goesByMotion } from '../shot/useDrawnWeight';
import type { ReadoutRow } from '../api/types';
import { ShotContext } from '../shot/context';
import { counted, playsOtherwise } from '../shot/summary';
import { grouped } from '../readout/units';
import { clock, seek, useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button, IconButton } from '../ui/controls';
import { notches, whileHeld } from '../ui/pointer';
import { Select } from '../ui/Select';
import { Bars } from './Bars';
import { CueEditor } from './CueEditor';
import { isFound } from './found';
import { KeyRow } from './KeyRow';
import { LoopSpan } from './LoopSpan';
import { following, panned, whole, zoomed, type Range } from './range';
import { between } from './span';

const PAD = 14;
const RULER = 20;
const FLAGS = 22;
/** Room for the words at the right end of the ridge. */
const CAPTION = 340;
const RIDGE = 44;
/** Of it, room for what it says of its peak. */
const LABEL = 14;

/** How much closer one looks with a step of the wheel. */
const CLOSER = 1.25;

/** How many pixels a step of the wheel goes along. */
const PANS = 100;

/** Time along the bottom: cues as flags, how many pieces let go at each frame, and the keys of the prop one works on. */
export function CueStrip() {
  const { handle, rows, prop, bake } = useContext(ShotContext);
  const otherwise = playsOtherwise(handle.shot.document);
  const { document } = handle.shot;
  const frame = useFrame();
  const playing = useView((view) => view.playing);
  const loop = useView((view) => view.loop);
  const speed = useView((view) => view.speed);
  const set = useView((view) => view.set);
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(800);
  const [dragged, setDragged] = useState<{ id: string; frame: number } | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const moved = useRef(false);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const last = document.frames;
  // What is shown of it; a shot that has become shorter is shown whole.
  const [chosenRange, setRange] = useState<Range | null>(null);
  const range = chosenRange && chosenRange.to <= last ? chosenRange : whole(last);
  const per = (width - 2 * PAD) / (range.to - range.from);
  const x = useCallback((f: number) => PAD + (f - range.from) * per, [range.from, per]);
  const exact = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    return range.from + (clientX - left - PAD) / per;
  };
  const at = (clientX: number) => Math.min(last, Math.max(1, Math.round(exact(clientX))));
  const wheel = useRef<(event: WheelEvent) => void>(() => undefined);
  wheel.current = (event) => {
    event.preventDefault();
    const { deltaX, deltaY, deltaMode } = event;
    // Along the strip, or with Shift, it goes along; else closer or farther.
    const along = Math.abs(deltaX) > Math.abs(deltaY) || event.shiftKey;
    setRange(
      along
        ? panned(range, (PANS * notches(deltaX || deltaY, deltaMode)) / per, last)
        : zoomed(range, CLOSER ** -notches(deltaY, deltaMode), exact(event.clientX), last),
    );
  };
  useEffect(() => {
    const element = box.current;
    // React's own listener may not keep the page from scrolling.
    const turn = (event: WheelEvent) => wheel.current(event);
    element?.addEventListener('wheel', turn, { passive: false });
    return () => element?.removeEventListener('wheel', turn);
  }, []);
  useEffect(() => clock.follow((now) => setRange((old) => (old ? following(old, now, last) : old))), [last]);
  const step = [1, 2, 5, 10, 20, 24, 48, 50, 100, 200, 500, 1000].find((n) => n * per > 46) ?? 1000;
  const ticks = Array.from({ length: Math.floor(last / step) + 1 }, (_, k) => Math.max(1, k * step));
  const expected = useExpected();
  const top = RULER + FLAGS;
  const go = (f: number) => seek(Math.min(last, Math.max(1, f)));
  const editedCue = document.cues.find((cue) => cue.id === editing);

  return (
    <section aria-label="Time" className="grid grid-cols-[180px_minmax(0,1fr)] border-t border-line bg-card">
      <div className="border-r border-line px-3 py-2">
        <Counter last={last} fps={document.fps} />
        <div className="mt-1.5 -ml-2 flex">
          <IconButton label="First frame" keys="Home" onClick={() => go(1)}>
            <ChevronFirst size={16} />
          </IconButton>
          <IconButton label="One frame back" keys="←" onClick={() => go(Math.round(clock.now) - 1)}>
            <StepBack size={15} />
          </IconButton>
          <IconButton
            label={playing ? 'Pause' : 'Play'}
            keys="Space"
            onClick={() => set({ playing: !playing })}
          >
            {playing ? <Pause size={17} /> : <Play size={17} />}
          </IconButton>
          <IconButton label="One frame on" keys="→" onClick={() => go(Math.round(clock.now) + 1)}>
            <StepForward size={15} />
          </IconButton>
          <IconButton label="Last frame" keys="End" onClick={() => go(last)}>
            <ChevronLast size={16} />
          </IconButton>
        </div>
        <div className="mt-1 -ml-1 flex items-center gap-1">
          <Button
            look="quiet"
            aria-pressed={loop}
            className={`!h-7 !px-2 ${loop ? 'text-teal' : 'text-ink-2'}`}
            onClick={() => set({ loop: !loop })}
          >
            <Repeat size={14} /> loop
          </Button>
          <Select
            id="speed"
            label="Speed"
            narrow
            value={String(speed)}
            options={[0.1, 0.25, 0.5, 1, 2].map((value) => [
              String(value),
              value === 1 ? 'real time' : `${value} ×`,
            ])}
            onChange={(value) => set({ speed: Number(value) })}
          />
        </div>
      </div>
      <div ref={box} className="relative min-w-0 select-none">
        {chosenRange && (range.from > 1 || range.to < last) ? (
          <Button
            look="quiet"
            className="absolute top-0 right-1 z-10 !h-5 !px-1.5 bg-well text-[11px]"
            onClick={() => setRange(null)}
          >
            {Math.ceil(range.from)} to {Math.floor(range.to)}: show all
          </Button>
        ) : null}
        <svg
          width={width}
          height={149}
          role="slider"
          tabIndex={0}
          aria-label="Frame"
          aria-valuemin={1}
          aria-valuemax={last}
          aria-valuenow={frame}
          onKeyDown={(event) => {
            const way = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
            const closer = { '+': CLOSER, '=': CLOSER, '-': 1 / CLOSER }[event.key];
            if (closer) setRange(zoomed(range, closer, clock.now, last));
            if (way) {
              event.preventDefault();
              go(Math.round(clock.now) + way * (event.shiftKey ? 10 : 1));
            }
          }}
          onPointerDown={(event) => {
            if (event.shiftKey) {
              // Not this listener's to keep: what is chosen is played.
              const begun = at(event.clientX);
              const view = useView.getState();
              whileHeld(
                (now) => view.set({ span: between(begun, at(now.clientX)) }),
                () => undefined,
              );
              return;
            }
            event.currentTarget.setPointerCapture(event.pointerId);
            go(at(event.clientX));
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            if (dragged) {
              moved.current = true;
              setDragged({ ...dragged, frame: at(event.clientX) });
            } else go(at(event.clientX));
          }}
          onPointerUp={() => {
            if (dragged && moved.current)
              handle.edit((doc) => ({
                ...doc,
                cues: doc.cues.map((cue) => (cue.id === dragged.id ? { ...cue, frame: dragged.frame } : cue)),
              }));
            else if (dragged) setEditing(dragged.id);
            setDragged(null);
          }}
        >
          <rect x={0} y={0} width={width} height={RULER} fill="var(--well)" />
          {ticks.map((f) => (
            <g key={f}>
              <line x1={x(f)} x2={x(f)} y1={RULER - 5} y2={RULER} stroke="var(--ink-2)" />
              <text x={x(f)} y={RULER - 8} textAnchor="middle" fontSize={11} fill="var(--ink-2)">
                {f}
              </text>
            </g>
          ))}
          <Ridge
            rows={expected ?? rows}
            x={x}
            top={top}
            height={RIDGE}
            stale={!expected && (bake?.stale ?? false)}
            width={width}
            hollow={expected !== null}
            otherwise={otherwise}
          />
          <text x={width - PAD} y={top + 12} textAnchor="end" fontSize={11} fill="var(--ink-2)">
            {expected
              ? `expected of ${prop?.name ?? ''} before the bake`
              : rows.length > 0
                ? `${counted(handle.shot.document).many} that let go ${otherwise ? 'or come back ' : ''}at each frame`
                : 'the ridge of releases appears with the bake'}
          </text>
          <line x1={0} x2={width} y1={top + RIDGE + 4} y2={top + RIDGE + 4} stroke="var(--line)" />
          {document.cues.map((cue) => {
            const f = dragged?.id === cue.id ? dragged.frame : cue.frame;
            return (
              <g
                key={cue.id}
                data-cue={cue.id}
                data-found={isFound(cue)}
                className={isFound(cue) ? 'cursor-pointer' : 'cursor-grab'}
                onPointerDown={(event) => {
                  // The strip keeps the pointer, so that dragging goes on outside the flag.
                  event.stopPropagation();
                  event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
                  // What is found stands where it is found: a click opens it, but it is not dragged.
                  moved.current = false;
                  if (isFound(cue)) setEditing(cue.id);
                  else setDragged({ id: cue.id, frame: cue.frame });
                }}
              >
                <line x1={x(f)} x2={x(f)} y1={RULER} y2={149} stroke="var(--ink-2)" strokeDasharray="2 3" />
                <path
                  d={flag(x(f), RULER + 2, cue.name, width)}
                  fill="var(--paper)"
                  stroke="var(--ink-2)"
                  strokeDasharray={isFound(cue) ? '3 2' : undefined}
                />
                <text
                  x={x(f) + (flips(x(f), cue.name, width) ? -6 : 6)}
                  y={RULER + 15}
                  fontSize={11}
                  textAnchor={flips(x(f), cue.name, width) ? 'end' : 'start'}
                  fill="var(--ink)"
                >
                  {cue.name}
                </text>
              </g>
            );
          })}
          <Cursor x={x} />
        </svg>
        <LoopSpan x={x} at={at} last={last} height={RULER} />
        <KeyRow x={x} at={at} y={top + RIDGE + 6} height={18} width={width} />
        <Bars x={x} at={at} y={top + RIDGE + 26} width={width} />
        {editedCue ? (
          <CueEditor
            cue={editedCue}
            left={Math.min(width - 298, Math.max(4, x(editedCue.frame)))}
            onClose={() => setEditing(null)}
          />
        ) : null}
      </div>
    </section>
  );
}

/** Which frame is shown: written straight into the page, since it changes at every frame. */
function Counter({ last, fps }: { last: number; fps: number }) {
  const count = useRef<HTMLSpanElement>(null);
  const seconds = useRef<HTMLSpanElement>(null);
  useEffect(
    () =>
      clock.follow((frame) => {
        if (count.current) count.current.textContent = String(Math.floor(frame));
        if (seconds.current) seconds.current.textContent = ((frame - 1) / fps).toFixed(2);
      }),
    [fps],
  );
  return (
    <>
      <p className="text-[16px] leading-5">
        <span data-testid="frame" className="font-semibold" ref={count} />
        <span className="text-ink-2"> of {last}</span>
      </p>
      <p className="text-[12px] text-ink-2">
        <span ref={seconds} /> s at {fps} fps
      </p>
    </>
  );
}

function Cursor({ x }: { x: (frame: number) => number }) {
  const mark = useRef<SVGGElement>(null);
  useEffect(
    () => clock.follow((frame) => mark.current?.setAttribute('transform', `translate(${x(frame)} 0)`)),
    [x],
  );
  return (
    <g ref={mark} pointerEvents="none">
      <line y1={0} y2={149} stroke="var(--rust)" strokeWidth={1.5} />
      <path d="M-5 0h10l-5 7z" fill="var(--rust)" />
    </g>
  );
}

const flagWidth = (name: string) => 14 + name.length * 6;
const flips = (at: number, name: string, width: number) => at + flagWidth(name) > width;

function flag(at: number, top: number, name: string, width: number): string {
  const w = flagWidth(name) * (flips(at, name, width) ? -1 : 1);
  return `M${at} ${top}h${w}v17h${-w}z`;
}

/** Filled mountains in rust: how many pieces let go at each frame. */
function Ridge({
  rows,
  x,
  top,
  height,
  stale,
  width,
  hollow,
  otherwise,
}: {
  rows: ReadoutRow[];
  x: (f: number) => number;
  top: number;
  height: number;
  stale: boolean;
  /** Of the strip: what it says of itself stands at the right end. */
  width: number;
  /** Only expected: an outline. */
  hollow: boolean;
  /** Frames are shown backwards, or by keys. */
  otherwise: boolean;
}) {
  if (rows.length === 0) return null;
  // Staged pieces come back too; those are no releases. Where time runs otherwise, what comes back counts as much.
  const counts = rows.map((row, k) => {
    const before = rows[k - 1]?.[1] ?? (otherwise ? row[1] : 0);
    return otherwise ? Math.abs(row[1] - before) : Math.max(0, row[1] - before);
  });
  const most = Math.max(1, ...counts);
  // One label for all equal peaks: the first of them.
  const peak = counts.indexOf(most);
  const bottom = top + height;
  // The square root keeps a single piece visible beside a burst.
  const y = (count: number) => bottom - Math.sqrt(count / most) * (height - LABEL);
  const points = counts.map((count, k) => `${x(rows[k]?.[0] ?? 1)},${y(count)}`);
  return (
    <g opacity={stale ? 0.45 : 1}>
      <polygon
        points={`${x(1)},${bottom} ${points.join(' ')} ${x(rows.at(-1)?.[0] ?? 1)},${bottom}`}
        fill={hollow ? 'none' : 'var(--rust)'}
        stroke="var(--rust)"
      />
      {most > 1 ? (
        <text
          x={Math.min(x(rows[peak]?.[0] ?? 1) + 4, width - CAPTION)}
          y={top + 10}
          fontSize={11}
          fill="var(--rust)"
          stroke="var(--card)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {grouped(most)} at {rows[peak]?.[0]}
        </text>
      ) : null}
    </g>
  );
}

/** What lets go of the open prop at each frame, as far as its weight says; null: a bake that fits shows it, or nothing is known. */
function useExpected(): [number, number, number, number][] | null {
  const { handle, prop, bake, rows } = useContext(ShotContext);
  const { shot } = handle;
  const trigger = chosen(prop?.release, 'trigger');
  const known = trigger.has('weight') || trigger.has('moment');
  const fresh = bake !== null && !bake.stale && rows.length > 0;
  const query = useQuery({
    queryKey: ['releases', shot.id, prop?.id, shot.head.id, goesByMotion(prop) ? bake?.id : null],
    enabled: prop !== undefined && known && !fresh && bake?.status !== 'running',
    queryFn: ({ signal }) =>
      getJson<{ counts: number[] }>(`shots/${shot.id}/props/${prop?.id ?? ''}/releases`, signal),
    retry: false,
  });
  const counts = query.data?.counts;
  return useMemo(() => {
    if (!counts || fresh || !known || !counts.some((count) => count > 0)) return null;
    let released = 0;
    return counts.map((count, k) => [k + 1, (released += count), 0, 0]);
  }, [counts, fresh, known]);
}
