import type { PieceMesh } from './mesh';
import type { ReadFrames, Hit } from './poses';
import { alongRay } from './ray';

/** Numbers of a place or a normal. */
const STRIDE = 3;

/** How corners share normals: all of one vertex on one side of its creases have one. */
export interface Shading {
  /** Of each corner. */
  shade: Uint32Array;
  count: number;
  /** Those of different vertices that are at one place and look one way at rest: sewn together, they share one as long as they are still there. */
  sewn: { shades: number[]; vertices: number[] }[];
}

/** Corners of a vertex whose normals are the same at rest go on sharing one. */
export function shadingOf(mesh: PieceMesh): Shading {
  const known = new Map<number, number>();
  const at = new Map<string, { shades: number[]; vertices: number[] }>();
  const piece = pieceOfCorner(mesh);
  const shade = Uint32Array.from(mesh.vertices, (v, c) => {
    const [x = 0, y = 0, z = 0] = mesh.normals.subarray(4 * c, 4 * c + 3);
    const key = v * 0x1000000 + ((x & 255) << 16) + ((y & 255) << 8) + (z & 255);
    const found = known.get(key) ?? known.size;
    if (found === known.size) {
      known.set(key, found);
      const place = [0, 1, 2].map((axis) =>
        Math.round(
          1e5 *
            ((mesh.positions[3 * c + axis] as number) +
              (mesh.centres[3 * (piece[c] as number) + axis] as number)),
        ),
      );
      const name = `${place.join()} ${x} ${y} ${z}`;
      const here = at.get(name) ?? { shades: [], vertices: [] };
      at.set(name, here);
      here.shades.push(found);
      here.vertices.push(v);
    }
    return found;
  });
  return { shade, count: known.size, sewn: [...at.values()].filter(({ shades }) => shades.length > 1) };
}

function pieceOfCorner(mesh: PieceMesh): Uint32Array {
  const piece = new Uint32Array(mesh.vertices.length);
  for (let k = 0; k < mesh.count; k++) {
    const first = mesh.first[k] as number;
    piece.fill(k, first, first + (mesh.corners[k] as number));
  }
  return piece;
}

/** Writes the places of all vertices at a frame, in between by straight line. False: they are not there yet. */
export function bakedPlaces(out: Float32Array, store: ReadFrames, prop: string, frame: number): boolean {
  const at = Math.min(Math.max(1, frame), Math.max(1, store.have));
  const a = store.at(at, prop, 'vertices');
  if (!a) return false;
  const t = at - Math.floor(at);
  const b = t > 0 ? (store.at(Math.min(Math.floor(at) + 1, store.have), prop, 'vertices') ?? a) : a;
  for (let k = 0; k < a.length; k++) out[k] = (1 - t) * (a[k] as number) + t * (b[k] as number);
  return true;
}

/** The triangle a ray meets first, of surfaces that have been bent. */
export function pickBent(mesh: PieceMesh, places: Float32Array, origin: number[], way: number[]): Hit | null {
  const vertices = mesh.vertices;
  const [ox, oy, oz] = origin as [number, number, number];
  const [wx, wy, wz] = way as [number, number, number];
  let best = Infinity;
  let corner = -1;
  for (let c = 0; c < vertices.length; c += 3) {
    const a = STRIDE * (vertices[c] as number);
    const b = STRIDE * (vertices[c + 1] as number);
    const d = STRIDE * (vertices[c + 2] as number);
    const ax = places[a] as number;
    const ay = places[a + 1] as number;
    const az = places[a + 2] as number;
    const ux = (places[b] as number) - ax;
    const uy = (places[b + 1] as number) - ay;
    const uz = (places[b + 2] as number) - az;
    const vx = (places[d] as number) - ax;
    const vy = (places[d + 1] as number) - ay;
    const vz = (places[d + 2] as number) - az;
    const t = alongRay(ox, oy, oz, wx, wy, wz, ax, ay, az, ux, uy, uz, vx, vy, vz);
    if (t < best) {
      best = t;
      corner = c;
    }
  }
  if (corner < 0) return null;
  let piece = 0;
  while (piece + 1 < mesh.count && (mesh.first[piece + 1] as number) <= corner) piece++;
  return {
    piece,
    distance: best,
    point: [ox + best * wx, oy + best * wy, oz + best * wz],
    normal: [0, 1, 0],
    corner,
  };
}
