import { HIDDEN, NUMBERS } from './numbers';
import { largest } from './poses';

/** Of a piece's radius: its corners seldom reach farther along an axis. */
const REACH = 0.8;

/** On each side so many of the pieces may be out of the picture: one that rolls far away must not make all others small. */
const STRAY = 0.01;

/** Of few pieces one, wherever it goes, but no more than this share of all. */
const OF_FEW = 0.04;

/** Moments of the motion that are looked at. */
const MOMENTS = 9;

/** Pieces at a moment: their numbers and radii. */
export interface Sample {
  poses: Float32Array;
  radii: Float32Array;
}

export interface Bounds {
  low: [number, number, number];
  high: [number, number, number];
}

/** Frames spread evenly over a motion, with the first and the last. */
export function moments(frames: number): number[] {
  return Array.from({ length: MOMENTS }, (_, k) => Math.round(1 + (k * (frames - 1)) / (MOMENTS - 1)));
}

/** Vertices seldom need all to be looked at. */
const EVERY = 7;

/** Some of the vertices of a bent surface (three numbers each) as if they were small pieces. */
export function scattered(places: Float32Array): { poses: Float32Array; radii: Float32Array } {
  const count = Math.ceil(places.length / 3 / EVERY);
  const poses = new Float32Array(NUMBERS * count);
  for (let k = 0; k < count; k++) {
    poses.set(places.subarray(3 * EVERY * k, 3 * EVERY * k + 3), NUMBERS * k);
    poses.fill(1, NUMBERS * k + 8, NUMBERS * k + 11);
  }
  return { poses, radii: new Float32Array(count) };
}

/** A box around nearly all pieces of a prop in all samples, which are of so many moments; null if there is nothing to see. */
export function boundsOf(samples: Sample[], moments = 1): Bounds | null {
  const low: number[][] = [[], [], []];
  const high: number[][] = [[], [], []];
  for (const { poses, radii } of samples) {
    for (let k = 0; k < radii.length; k++) {
      const o = NUMBERS * k;
      if ((poses[o + 3] as number) >= HIDDEN) continue;
      const reach = REACH * (radii[k] as number) * largest(poses, k);
      for (let axis = 0; axis < 3; axis++) {
        const at = poses[o + axis] as number;
        low[axis]?.push(at - reach);
        high[axis]?.push(at + reach);
      }
    }
  }
  const count = low[0]?.length ?? 0;
  if (count === 0) return null;
  const stray = Math.floor(Math.max(STRAY * count, moments > 1 ? Math.min(OF_FEW * count, moments) : 0));
  const cut = (values: number[][], place: number) =>
    values.map((list) => list.sort((a, b) => a - b)[place] as number) as [number, number, number];
  return { low: cut(low, stray), high: cut(high, count - 1 - stray) };
}

/** A box around the boxes of all props: one with many pieces does not crowd out one of a single piece. */
export function around(boxes: (Bounds | null)[]): Bounds | null {
  return boxes.reduce(
    (all, box) =>
      all && box
        ? {
            low: all.low.map((value, k) => Math.min(value, box.low[k] as number)) as Bounds['low'],
            high: all.high.map((value, k) => Math.max(value, box.high[k] as number)) as Bounds['high'],
          }
        : (all ?? box),
    null,
  );
}

/** Share of the picture that stays free around the box. */
const MARGIN = 0.08;

type Vector = [number, number, number];

const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** How far from the middle of a box a camera must stand so that all its corners are in the picture. */
export function distanceFor(
  { low, high }: Bounds,
  way: Vector,
  upwards: Vector,
  fov: number,
  aspect: number,
): number {
  const side = cross(upwards, way);
  const right = side.map((v) => v / Math.hypot(...side)) as Vector;
  const up = cross(way, right);
  const tall = Math.tan((fov * Math.PI) / 360) * (1 - MARGIN);
  let away = 0;
  for (let corner = 0; corner < 8; corner++) {
    const half = [0, 1, 2].map(
      (axis) => (((corner >> axis) & 1 ? 1 : -1) * ((high[axis] as number) - (low[axis] as number))) / 2,
    ) as Vector;
    const across = Math.max(Math.abs(dot(half, right)) / (tall * aspect), Math.abs(dot(half, up)) / tall);
    away = Math.max(away, dot(half, way) + across);
  }
  return away;
}
