/** Radius and height of a point, m. */
export type Point = [number, number];

/** How an outline is seen: metres to pixels, its axis in the middle, so that one sees the whole shape. */
export interface View {
  across: (radius: number) => number;
  down: (height: number) => number;
  /** Radius and height at a place in the picture. */
  at: (x: number, y: number) => Point;
  /** What a pixel is worth, as a round number of metres. */
  grain: number;
}

/** Pixels kept free around. */
const MARGIN = 14;

/** As near to the axis, in pixels, an end of the outline goes onto it. */
const CATCH = 4;

export function viewOf(points: readonly Point[], width: number, height: number): View {
  const radius = Math.max(1e-4, ...points.map(([r]) => r));
  const heights = points.map(([, h]) => h);
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const scale = Math.min((width / 2 - MARGIN) / radius, (height - 2 * MARGIN) / Math.max(1e-4, high - low));
  const foot = height / 2 + (scale * (low + high)) / 2;
  return {
    across: (r) => width / 2 + scale * r,
    down: (h) => foot - scale * h,
    at: (x, y) => [(x - width / 2) / scale, (foot - y) / scale],
    grain: 10 ** Math.floor(Math.log10(1.01 / scale)),
  };
}

/** Whether a point may lie on the axis. */
export const isEnd = (points: readonly Point[], k: number): boolean => k === 0 || k === points.length - 1;

/** A point put somewhere else: on whole steps, and on the axis only if it is an end of the outline. */
export function moved(points: readonly Point[], k: number, [radius, height]: Point, view: View): Point[] {
  const round = (value: number) => Number((Math.round(value / view.grain) * view.grain).toPrecision(9));
  const onAxis = isEnd(points, k) && radius < view.at(view.across(0) + CATCH, 0)[0];
  const r = onAxis ? 0 : Math.max(isEnd(points, k) ? 0 : view.grain, round(radius));
  return points.map((old, n) => (n === k ? [r, round(height)] : old));
}

/** Whether the last point goes on to the first: with neither end on the axis the outline is that of a ring. */
export function isRing(points: readonly Point[]): boolean {
  return (points[0]?.[0] ?? 0) > 0 && (points.at(-1)?.[0] ?? 0) > 0;
}

/** What it will be, in words. */
export function kindOf(points: readonly Point[]): string {
  if (isRing(points)) return 'a ring';
  return (points[0]?.[0] ?? 0) > 0 || (points.at(-1)?.[0] ?? 0) > 0 ? 'an open shape' : 'a solid';
}

/** Lines of “radius height”; a text where they cannot be read. */
export function outlineFrom(text: string): Point[] | string {
  const points = text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/[\s,;]+/).map(Number));
  const bad = points.findIndex(
    (point) => point.length !== 2 || point.some((number) => !Number.isFinite(number)),
  );
  if (bad >= 0) return `Line ${bad + 1} needs two numbers: radius and height.`;
  return points.length < 3 ? 'A profile needs at least three points.' : (points as Point[]);
}
