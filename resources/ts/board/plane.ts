export type Point = [number, number];
export interface Line {
  points: Point[];
  closed: boolean;
}
export type Facing = 'x' | 'y' | 'z';

/**
 * Which axes a drawing runs along (as the core has them: the two after the one looked along, in turn), and how they lie on
 * the board, so that up is up.
 */
const AXES: Record<Facing, { first: number; second: number; right: Point; up: Point; look: number }> = {
  z: { first: 0, second: 1, right: [1, 0], up: [0, 1], look: 2 },
  x: { first: 1, second: 2, right: [0, -1], up: [1, 0], look: 0 },
  y: { first: 2, second: 0, right: [0, 1], up: [-1, 0], look: 1 },
};

export function axesOf(facing: Facing) {
  return AXES[facing];
}

/** From the drawing's axes to right and up on the board, and back (the map is its own kind of turn). */
export function toBoard(facing: Facing, [u, v]: Point): Point {
  const { right, up } = AXES[facing];
  return [right[0] * u + right[1] * v, up[0] * u + up[1] * v];
}

export function fromBoard(facing: Facing, [x, y]: Point): Point {
  const { right, up } = AXES[facing];
  return [right[0] * x + up[0] * y, right[1] * x + up[1] * y];
}

const distance = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

export function segmentsOf(line: Line): [Point, Point][] {
  const pairs: [Point, Point][] = [];
  for (let k = 1; k < line.points.length; k++)
    pairs.push([line.points[k - 1] as Point, line.points[k] as Point]);
  if (line.closed && line.points.length > 2)
    pairs.push([line.points.at(-1) as Point, line.points[0] as Point]);
  return pairs;
}

function nearestOn([a, b]: [Point, Point], p: Point): Point {
  const dx = b[0] - a[0];
  const dy = b[1] - a[1];
  const s = Math.max(
    0,
    Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / Math.max(1e-300, dx * dx + dy * dy)),
  );
  return [a[0] + s * dx, a[1] + s * dy];
}

export interface Snap {
  at: Point;
  kind: 'free' | 'point' | 'line';
}

/** The place a pointer means: an end or a corner nearby, else a place on a line nearby, else where it is. */
export function snap(p: Point, lines: Line[], near: number): Snap {
  let best = near;
  let at: Point | null = null;
  for (const line of lines)
    for (const q of line.points) {
      const d = distance(p, q);
      if (d < best) [best, at] = [d, q];
    }
  if (at) return { at, kind: 'point' };
  best = 0.7 * near;
  for (const line of lines)
    for (const pair of segmentsOf(line)) {
      const q = nearestOn(pair, p);
      const d = distance(p, q);
      if (d < best) [best, at] = [d, q];
    }
  return at
    ? { at: [round(at[0]), round(at[1])], kind: 'line' }
    : { at: [round(p[0]), round(p[1])], kind: 'free' };
}

/** The line under the pointer, and which of its points or stretches. */
export function under(
  p: Point,
  lines: Line[],
  near: number,
): { line: number; point: number | null; after: number } | null {
  let best = near;
  let found: { line: number; point: number | null; after: number } | null = null;
  lines.forEach((line, k) =>
    line.points.forEach((q, i) => {
      const d = distance(p, q);
      if (d < best) {
        best = d;
        found = { line: k, point: i, after: i };
      }
    }),
  );
  if (found) return found;
  best = 0.8 * near;
  lines.forEach((line, k) =>
    segmentsOf(line).forEach((pair, i) => {
      const d = distance(p, nearestOn(pair, p));
      if (d < best) {
        best = d;
        found = { line: k, point: null, after: i };
      }
    }),
  );
  return found;
}

/** All lines with every point at one place moved to another: what meets stays together. */
export function moved(lines: Line[], from: Point, to: Point): Line[] {
  return lines.map((line) =>
    line.points.some((q) => distance(q, from) < 1e-9)
      ? { ...line, points: line.points.map((q) => (distance(q, from) < 1e-9 ? to : q)) }
      : line,
  );
}

export const round = (value: number) => Math.round(value * 1e6) / 1e6;
