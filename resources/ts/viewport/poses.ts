import { HIDDEN, NUMBERS, OPEN, SELECTED } from './numbers';
import type { Place } from '../tracks/WeightStore';
import type { PieceMesh } from './mesh';
import { alongRay } from './ray';

/** Where the baked numbers come from. */
export interface BakedFrames {
  have: number;
  at: (frame: number, prop: string, kind: string) => Float32Array | undefined;
  /** The same as it is stored. */
  bytesAt: (frame: number, prop: string, kind: string) => Uint8Array | undefined;
}

/** Frames whose numbers are read one by one. */
export type ReadFrames = Pick<BakedFrames, 'have' | 'at'>;

type Quat = [number, number, number, number];

function turn(q: Quat, x: number, y: number, z: number): [number, number, number] {
  const tx = 2 * (q[1] * z - q[2] * y);
  const ty = 2 * (q[2] * x - q[0] * z);
  const tz = 2 * (q[0] * y - q[1] * x);
  return [
    x + q[3] * tx + q[1] * tz - q[2] * ty,
    y + q[3] * ty + q[2] * tx - q[0] * tz,
    z + q[3] * tz + q[0] * ty - q[1] * tx,
  ];
}

/** Writes the numbers of each piece (place, state, turn, size and how far it has changed; fresh faces can be seen of what is OPEN): the prop where it stands, pulled apart from its middle. */
export function restPoses(
  out: Float32Array,
  mesh: PieceMesh,
  pose: number[],
  pull: number,
  selected: number[] = [],
  hidden: number[] = [],
): void {
  const [px = 0, py = 0, pz = 0, qx = 0, qy = 0, qz = 0, qw = 1, sx = 1, sy = 1, sz = 1] = pose;
  const q: Quat = [qx, qy, qz, qw];
  let mx = 0;
  let my = 0;
  let mz = 0;
  let sum = 0;
  for (let k = 0; k < mesh.count; k++) {
    const v = Math.max(1e-12, mesh.volumes[k] as number);
    mx += v * (mesh.centres[3 * k] as number);
    my += v * (mesh.centres[3 * k + 1] as number);
    mz += v * (mesh.centres[3 * k + 2] as number);
    sum += v;
  }
  for (let k = 0; k < mesh.count; k++) {
    const cx = mesh.centres[3 * k] as number;
    const cy = mesh.centres[3 * k + 1] as number;
    const cz = mesh.centres[3 * k + 2] as number;
    const [x, y, z] = turn(
      q,
      sx * (cx + pull * (cx - mx / sum)),
      sy * (cy + pull * (cy - my / sum)),
      sz * (cz + pull * (cz - mz / sum)),
    );
    out.set(
      [px + x, py + y, pz + z, pull > 0 || hidden.length > 0 ? OPEN : 0, qx, qy, qz, qw, sx, sy, sz, 0],
      NUMBERS * k,
    );
  }
  for (const k of selected) if (k < mesh.count) (out[NUMBERS * k + 3] as number) += SELECTED;
  for (const k of hidden) if (k < mesh.count) (out[NUMBERS * k + 3] as number) += HIDDEN;
}

/** The same from the baked frames, in between by straight line and shortest turn. */
export function bakedPoses(out: Float32Array, store: ReadFrames, prop: string, frame: number): boolean {
  const at = Math.min(Math.max(1, frame), Math.max(1, store.have));
  const a = store.at(at, prop, 'pose');
  const flags = store.at(at, prop, 'flags');
  if (!a || !flags) return false;
  const b = store.at(Math.min(Math.floor(at) + 1, store.have), prop, 'pose') ?? a;
  const t = at - Math.floor(at);
  for (let k = 0; k < flags.length; k++) {
    const p = 7 * k;
    const o = NUMBERS * k;
    let dot = 0;
    for (let c = 3; c < 7; c++) dot += (a[p + c] as number) * (b[p + c] as number);
    const sign = dot < 0 ? -1 : 1;
    let length = 0;
    out[o + 3] = (flags[k] as number) & 1 ? OPEN : 0;
    for (let c = 0; c < 3; c++) out[o + c] = (a[p + c] as number) * (1 - t) + (b[p + c] as number) * t;
    for (let c = 0; c < 4; c++) {
      const value = (a[p + 3 + c] as number) * (1 - t) + sign * (b[p + 3 + c] as number) * t;
      out[o + 4 + c] = value;
      length += value * value;
    }
    length = Math.sqrt(length) || 1;
    for (let c = 4; c < 8; c++) out[o + c] = (out[o + c] as number) / length;
    out[o + 8] = out[o + 9] = out[o + 10] = 1;
  }
  weighBy(out, store, prop, at);
  for (const [kind, numbers] of SIZES) scaleBy(out, store, prop, kind, numbers, at);
  return true;
}

/** How far each piece has changed stands in its last number. */
function weighBy(out: Float32Array, store: ReadFrames, prop: string, at: number): void {
  const a = store.at(at, prop, 'weight');
  const b = store.at(Math.min(Math.floor(at) + 1, store.have), prop, 'weight') ?? a;
  const t = at - Math.floor(at);
  if (a && b)
    for (let k = 0; k < a.length; k++)
      out[NUMBERS * k + 11] = (a[k] as number) * (1 - t) + (b[k] as number) * t;
}

/** Tracks that give a piece its size, and their numbers a piece. */
const SIZES: [kind: string, numbers: number][] = [
  ['scale', 3],
  ['life', 1],
];

function scaleBy(
  out: Float32Array,
  store: ReadFrames,
  prop: string,
  kind: string,
  numbers: number,
  at: number,
): void {
  const a = store.at(at, prop, kind);
  if (!a) return;
  const b = store.at(Math.min(Math.floor(at) + 1, store.have), prop, kind) ?? a;
  const t = at - Math.floor(at);
  for (let k = 0; k * numbers < a.length; k++) {
    for (let c = 0; c < 3; c++) {
      const n = numbers * k + (c % numbers);
      const o = NUMBERS * k + 8 + c;
      out[o] = (out[o] as number) * ((a[n] as number) * (1 - t) + (b[n] as number) * t);
    }
    const size = largest(out, k);
    // What is gone throws no shadow and cannot be pointed at.
    if (size < 1e-4) out[NUMBERS * k + 3] = HIDDEN;
  }
}

/** How large a piece is along the axis where it is largest. */
export function largest(poses: Float32Array, piece: number): number {
  const o = NUMBERS * piece + 8;
  return Math.max(
    Math.abs(poses[o] as number),
    Math.abs(poses[o + 1] as number),
    Math.abs(poses[o + 2] as number),
  );
}

export interface Hit {
  piece: number;
  distance: number;
  /** In the prop's own space. */
  point: [number, number, number];
  normal: [number, number, number];
  /** First corner of the triangle that was hit. */
  corner: number;
}

/** The vertices of the triangle that was hit, and the share of each in the place, by the areas across from them. */
export function placeOf(mesh: PieceMesh, hit: Hit): Place {
  const at = (corner: number) =>
    [0, 1, 2].map(
      (axis) =>
        (mesh.positions[3 * corner + axis] as number) +
        (mesh.centres[3 * hit.piece + axis] as number) -
        (hit.point[axis] as number),
    ) as [number, number, number];
  const corners = [at(hit.corner), at(hit.corner + 1), at(hit.corner + 2)] as const;
  const area = (p: readonly number[], q: readonly number[]) =>
    Math.hypot(
      (p[1] as number) * (q[2] as number) - (p[2] as number) * (q[1] as number),
      (p[2] as number) * (q[0] as number) - (p[0] as number) * (q[2] as number),
      (p[0] as number) * (q[1] as number) - (p[1] as number) * (q[0] as number),
    );
  const areas = [area(corners[1], corners[2]), area(corners[2], corners[0]), area(corners[0], corners[1])];
  const all = areas.reduce((sum, part) => sum + part, 0) || 1;
  return {
    vertices: [0, 1, 2].map((k) => mesh.vertices[hit.corner + k] ?? 0) as Place['vertices'],
    shares: areas.map((part) => part / all) as Place['shares'],
  };
}

/** The piece a ray meets first. Rays are tested against each piece's ball, then its triangles. */
export function pick(
  mesh: PieceMesh,
  poses: Float32Array,
  radii: Float32Array,
  origin: number[],
  way: number[],
): Hit | null {
  let best = Infinity;
  let piece = -1;
  let corner = 0;
  let point: [number, number, number] = [0, 0, 0];
  let normal: [number, number, number] = [0, 1, 0];
  const [ox, oy, oz] = origin as [number, number, number];
  const [wx, wy, wz] = way as [number, number, number];
  for (let k = 0; k < mesh.count; k++) {
    const o = NUMBERS * k;
    if ((poses[o + 3] as number) >= HIDDEN) continue;
    const dx = ox - (poses[o] as number);
    const dy = oy - (poses[o + 1] as number);
    const dz = oz - (poses[o + 2] as number);
    const along = -(dx * wx + dy * wy + dz * wz);
    const off = dx * dx + dy * dy + dz * dz - along * along;
    const r = largest(poses, k) * (radii[k] as number);
    if (off > r * r || along - r > best) continue;
    const back: Quat = [
      -(poses[o + 4] as number),
      -(poses[o + 5] as number),
      -(poses[o + 6] as number),
      poses[o + 7] as number,
    ];
    // In the piece's own size, so that its distance stays that of the world.
    const [ux, uy, uz] = turn(back, dx, dy, dz);
    const [lx, ly, lz] = turn(back, wx, wy, wz);
    const sx = poses[o + 8] as number;
    const sy = poses[o + 9] as number;
    const sz = poses[o + 10] as number;
    const [rx, ry, rz] = [ux / sx, uy / sy, uz / sz];
    const [vx, vy, vz] = [lx / sx, ly / sy, lz / sz];
    const P = mesh.positions;
    const first = mesh.first[k] as number;
    for (let c = first; c < first + (mesh.corners[k] as number); c += 3) {
      const i = 3 * c;
      const ax = P[i] as number;
      const ay = P[i + 1] as number;
      const az = P[i + 2] as number;
      const e1x = (P[i + 3] as number) - ax;
      const e1y = (P[i + 4] as number) - ay;
      const e1z = (P[i + 5] as number) - az;
      const e2x = (P[i + 6] as number) - ax;
      const e2y = (P[i + 7] as number) - ay;
      const e2z = (P[i + 8] as number) - az;
      const t = alongRay(rx, ry, rz, vx, vy, vz, ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z);
      if (t < best) {
        best = t;
        piece = k;
        corner = c;
        point = [
          rx + t * vx + (mesh.centres[3 * k] as number),
          ry + t * vy + (mesh.centres[3 * k + 1] as number),
          rz + t * vz + (mesh.centres[3 * k + 2] as number),
        ];
        normal = [e1y * e2z - e1z * e2y, e1z * e2x - e1x * e2z, e1x * e2y - e1y * e2x];
      }
    }
  }
  if (piece < 0) return null;
  const length = Math.hypot(...normal) || 1;
  return {
    piece,
    distance: best,
    point,
    normal: [normal[0] / length, normal[1] / length, normal[2] / length],
    corner,
  };
}
