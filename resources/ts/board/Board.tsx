import { useContext, useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { chosen } from '../api/schema';
import type { PropDocument, Stage } from '../api/types';
import { ShotContext } from '../shot/context';
import { faceUrl } from '../state/face';
import { useView } from '../state/view';
import type { PieceMesh } from '../viewport/mesh';
import { extent, paintPieces, pieceAt, toPixel, type Window2 } from './paint';
import {
  fromBoard,
  moved,
  round,
  snap,
  toBoard,
  under,
  type Facing,
  type Line,
  type Point,
  type Snap,
} from './plane';
import { useLines } from './useLines';

/** The prop on the board is as light in dark colours as in light ones, so its lines are the same too. */
const INK = '#1f2427';
const HALO = '#fbfaf7';
const CHOSEN = '#0b6663';
const DRAWING = '#a13f1b';

/** Pixels within which the pointer means a point or a line. */
const NEAR = 9;

/** Whether the stage is one in which lines are drawn on the prop. */
export function boardShown(stage: Stage, prop: PropDocument): boolean {
  return stage === 'break' && chosen(prop.break, 'pattern').has('board');
}

/** A flat board with the prop on it, seen from the front: lines are drawn, dragged about and taken away here. */
export function Board({ prop, mesh }: { prop: PropDocument; mesh: PieceMesh | undefined }) {
  const { handle } = useContext(ShotContext);
  const { lines, change } = useLines();
  const tool = useView((view) => view.tool);
  const selected = useView((view) => view.line);
  const pieces = useView((view) => view.pieces);
  const hidden = useView((view) => view.hidden);
  const set = useView((view) => view.set);
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [at, setAt] = useState<{ x: number; y: number; scale: number } | null>(null);
  const [drawing, setDrawing] = useState<Point[]>([]);
  const [pointer, setPointer] = useState<Snap | null>(null);
  const [dragged, setDragged] = useState<Line[] | null>(null);
  const grip = useRef<
    | { kind: 'pan'; x: number; y: number }
    | { kind: 'point'; from: Point }
    | { kind: 'line'; line: number; from: Point }
    | null
  >(null);
  const pattern = chosen(prop.break, 'pattern');
  const facing = pattern.settings['facing'] as Facing;
  // An opening is cut by outlines only.
  const loopsOnly = pattern.has('loops');

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  const box = useMemo(() => (mesh ? extent(mesh, facing) : null), [mesh, facing]);
  const fitted = useMemo(() => {
    if (!box || size.width === 0) return null;
    const scale = 0.82 * Math.min(size.width / (box[2] - box[0]), size.height / (box[3] - box[1]));
    return { x: 0.5 * (box[0] + box[2]), y: 0.5 * (box[1] + box[3]), scale };
  }, [box, size]);
  const where = at ?? fitted ?? { x: 0, y: 0, scale: 300 };
  const w: Window2 = { ...where, ...size };

  const face = useImage(faceUrl(handle.shot.id, prop));
  const tracing = prop.break.tracing;
  const traced = useImage(tracing.asset ? `/api/assets/${tracing.asset}` : null);

  useEffect(() => {
    const g = canvas.current?.getContext('2d');
    if (!g || size.width === 0) return;
    const dpr = window.devicePixelRatio || 1;
    g.canvas.width = size.width * dpr;
    g.canvas.height = size.height * dpr;
    g.setTransform(dpr, 0, 0, dpr, 0, 0);
    g.clearRect(0, 0, size.width, size.height);
    if (mesh) paintPieces(g, w, mesh, facing, pieces, hidden);
    if (face && box && facing === 'z') {
      const [x0, y0] = toPixel(w, box[0], box[3]);
      const [x1, y1] = toPixel(w, box[2], box[1]);
      g.globalCompositeOperation = 'source-atop';
      g.globalAlpha = 0.45;
      g.drawImage(face, x0, y0, x1 - x0, y1 - y0);
      g.globalCompositeOperation = 'source-over';
    }
    if (traced && tracing.strength > 0) {
      g.globalAlpha = tracing.strength;
      const [x, y] = toPixel(w, tracing.right, tracing.up);
      const width = tracing.width * w.scale;
      const height = (width * traced.naturalHeight) / Math.max(1, traced.naturalWidth);
      g.save();
      g.translate(x, y);
      g.rotate((-tracing.turn * Math.PI) / 180);
      g.drawImage(traced, -0.5 * width, -0.5 * height, width, height);
      g.restore();
    }
    g.globalAlpha = 1;
  });

  const metres = (event: { clientX: number; clientY: number }): Point => {
    const rect = frame.current?.getBoundingClientRect();
    const px = event.clientX - (rect?.left ?? 0);
    const py = event.clientY - (rect?.top ?? 0);
    return fromBoard(facing, [w.x + (px - 0.5 * w.width) / w.scale, w.y - (py - 0.5 * w.height) / w.scale]);
  };
  const near = NEAR / w.scale;

  const finish = (closed: boolean, points = drawing) => {
    setDrawing([]);
    if (points.length > (closed ? 2 : 1)) change([...lines, { points, closed: closed || loopsOnly }]);
  };
  const remove = () => {
    if (selected === null) return;
    set({ line: null });
    change(lines.filter((_, k) => k !== selected));
  };

  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (
        event.target instanceof HTMLElement &&
        event.target.closest('input, textarea, select, [role=dialog]')
      )
        return;
      const done = () => {
        event.preventDefault();
        event.stopPropagation();
      };
      if (drawing.length > 0) {
        if (event.key === 'Enter') {
          done();
          finish(false);
        } else if (event.key === 'Escape') {
          done();
          setDrawing([]);
        } else if (event.key === 'Backspace') {
          done();
          setDrawing(drawing.slice(0, -1));
        }
      } else if ((event.key === 'Delete' || event.key === 'Backspace') && selected !== null) {
        done();
        remove();
      } else if (event.key === 'f') {
        setAt(null);
      }
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  });

  /** With Shift a line goes level, upright, or half-way between. */
  const meant = (event: PointerEvent): Snap => {
    const p = metres(event);
    const last = drawing.at(-1);
    if (event.shiftKey && last) {
      const [dx, dy] = [p[0] - last[0], p[1] - last[1]];
      const angle = (Math.round(Math.atan2(dy, dx) / (Math.PI / 4)) * Math.PI) / 4;
      const length = Math.hypot(dx, dy);
      return {
        at: [round(last[0] + length * Math.cos(angle)), round(last[1] + length * Math.sin(angle))],
        kind: 'free',
      };
    }
    return snap(p, [...lines, { points: drawing, closed: false }], near);
  };

  const press = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    if (event.button !== 0) {
      grip.current = { kind: 'pan', x: event.clientX, y: event.clientY };
      return;
    }
    if (tool === 'draw') {
      const { at: place } = meant(event);
      const first = drawing[0];
      if (first && drawing.length > 2 && Math.hypot(place[0] - first[0], place[1] - first[1]) < 1e-9) {
        finish(true);
        return;
      }
      const last = drawing.at(-1);
      if (last && Math.hypot(place[0] - last[0], place[1] - last[1]) < 1e-9) return;
      setDrawing([...drawing, place]);
      return;
    }
    const found = under(metres(event), lines, near);
    set({ line: found ? found.line : null });
    if (!found) {
      // Beside all lines a click chooses the piece there, as it does in the round.
      const piece = mesh ? pieceAt(mesh, facing, toBoard(facing, metres(event)), hidden) : null;
      const more = event.shiftKey || event.ctrlKey || event.metaKey;
      set({
        pieces:
          piece === null
            ? []
            : more
              ? pieces.includes(piece)
                ? pieces.filter((k) => k !== piece)
                : [...pieces, piece]
              : chosen.length === 1 && pieces[0] === piece
                ? []
                : [piece],
      });
      return;
    }
    const point = found.point === null ? null : lines[found.line]?.points[found.point];
    grip.current = point
      ? { kind: 'point', from: point }
      : { kind: 'line', line: found.line, from: metres(event) };
  };

  const move = (event: PointerEvent) => {
    const hold = grip.current;
    if (hold?.kind === 'pan') {
      setAt({
        x: w.x - (event.clientX - hold.x) / w.scale,
        y: w.y + (event.clientY - hold.y) / w.scale,
        scale: w.scale,
      });
      grip.current = { ...hold, x: event.clientX, y: event.clientY };
      return;
    }
    if (hold?.kind === 'point') {
      const others = lines.map((line) => ({
        ...line,
        points: line.points.filter((q) => Math.hypot(q[0] - hold.from[0], q[1] - hold.from[1]) > 1e-9),
      }));
      const target = snap(metres(event), others, near);
      setPointer(target);
      setDragged(moved(lines, hold.from, target.at));
      return;
    }
    if (hold?.kind === 'line') {
      const p = metres(event);
      const [dx, dy] = [p[0] - hold.from[0], p[1] - hold.from[1]];
      setDragged(
        lines.map((line, k) =>
          k === hold.line
            ? { ...line, points: line.points.map(([x, y]): Point => [round(x + dx), round(y + dy)]) }
            : line,
        ),
      );
      return;
    }
    setPointer(tool === 'draw' ? meant(event) : null);
  };

  const release = () => {
    const hold = grip.current;
    grip.current = null;
    if (dragged && hold && hold.kind !== 'pan') change(dragged);
    setDragged(null);
  };

  const twice = (event: React.MouseEvent) => {
    if (tool === 'draw') {
      if (drawing.length > 0) finish(false);
      return;
    }
    const found = under(metres(event), lines, near);
    if (!found || found.point !== null) return;
    const p = metres(event);
    change(
      lines.map((line, k) =>
        k === found.line
          ? {
              ...line,
              points: [
                ...line.points.slice(0, found.after + 1),
                [round(p[0]), round(p[1])] as Point,
                ...line.points.slice(found.after + 1),
              ],
            }
          : line,
      ),
    );
  };

  const pixel = (p: Point) => toPixel(w, ...toBoard(facing, p));
  const path = (line: Line) =>
    line.points.map((p, k) => `${k === 0 ? 'M' : 'L'}${pixel(p).join(' ')}`).join('') +
    (line.closed ? 'Z' : '');
  const shown = dragged ?? lines;
  const ghost = drawing.length > 0 && pointer ? [...drawing, pointer.at] : drawing;

  return (
    <div
      ref={frame}
      className="absolute inset-0 z-10 bg-card"
      data-testid="board"
      data-lines={lines.length}
      style={{ cursor: tool === 'draw' ? 'crosshair' : 'default' }}
      onWheel={(event) => {
        const factor = Math.exp(-event.deltaY * 0.0012);
        const [x, y] = toBoard(facing, metres(event));
        setAt({ x: x + (w.x - x) / factor, y: y + (w.y - y) / factor, scale: w.scale * factor });
      }}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" />
      <svg
        className="absolute inset-0 h-full w-full touch-none"
        aria-label="Drawing board"
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerLeave={() => grip.current === null && setPointer(null)}
        onDoubleClick={twice}
        onContextMenu={(event) => event.preventDefault()}
      >
        {shown.map((line, k) => (
          <g key={k}>
            <path d={path(line)} fill="none" stroke={HALO} strokeWidth={4} strokeOpacity={0.7} />
            <path
              d={path(line)}
              fill="none"
              stroke={k === selected ? CHOSEN : INK}
              strokeWidth={k === selected ? 2.4 : 1.6}
              strokeLinejoin="round"
            />
            {tool === 'move'
              ? line.points.map((p, i) => {
                  const [x, y] = pixel(p);
                  return (
                    <circle
                      key={i}
                      cx={x}
                      cy={y}
                      r={k === selected ? 4 : 2.6}
                      fill={HALO}
                      stroke={k === selected ? CHOSEN : INK}
                      strokeWidth={1.4}
                    />
                  );
                })
              : null}
          </g>
        ))}
        {ghost.length > 1 ? (
          <path
            d={path({ points: ghost, closed: false })}
            fill="none"
            stroke={DRAWING}
            strokeWidth={2}
            strokeLinejoin="round"
          />
        ) : null}
        {drawing.map((p, k) => (
          <circle key={k} cx={pixel(p)[0]} cy={pixel(p)[1]} r={3} fill={DRAWING} />
        ))}
        {pointer ? (
          <circle
            cx={pixel(pointer.at)[0]}
            cy={pixel(pointer.at)[1]}
            r={pointer.kind === 'free' ? 2.5 : 6}
            fill={pointer.kind === 'free' ? DRAWING : 'none'}
            stroke={DRAWING}
            strokeWidth={1.6}
          />
        ) : null}
      </svg>
      <p className="pointer-events-none absolute bottom-2 left-3 max-w-[80%] rounded-md bg-card/85 px-2 py-1 text-[12px] text-ink-2">
        {tool === 'draw'
          ? drawing.length === 0
            ? loopsOnly
              ? 'Click the corners of the opening.'
              : 'Click where a cut begins. Lines snap to one another; let them reach past the rim.'
            : 'Click on. Enter or a double click ends the line, a click on its first point closes it, Esc drops it.'
          : 'Drag points or lines. Double click a line to add a point. Delete takes the chosen line away. Click a piece to choose it.'}{' '}
        Wheel to zoom, right button to move the board.
      </p>
    </div>
  );
}

function useImage(address: string | null): HTMLImageElement | null {
  const [image, setImage] = useState<HTMLImageElement | null>(null);
  useEffect(() => {
    setImage(null);
    if (!address) return;
    const next = new Image();
    next.onload = () => setImage(next);
    next.src = address;
    return () => {
      next.onload = null;
    };
  }, [address]);
  return image;
}
