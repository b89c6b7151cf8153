import { request } from '../api/client';

/** Pieces as the server sends them for drawing; the layout is described in docs/frames.md. */
export interface PieceMesh {
  etag: string;
  count: number;
  /** Three numbers a piece, in the prop's space. */
  centres: Float32Array;
  volumes: Float32Array;
  first: Uint32Array;
  corners: Uint32Array;
  positions: Float32Array;
  /** Normal (three) and look (one) of each corner. */
  normals: Int8Array;
  /** Texture coordinates of each corner, for props that show art on their face. */
  uvs: Float32Array | null;
  /** Vertex of each corner, counted over all pieces: weights and bent surfaces have a value each. */
  vertices: Uint32Array;
  vertexCount: number;
}

const PIECE_BYTES = 24;

export function parsePieces(buffer: ArrayBuffer, etag: string): PieceMesh {
  const view = new DataView(buffer);
  const count = view.getUint32(8, true);
  const total = view.getUint32(12, true);
  const centres = new Float32Array(3 * count);
  const volumes = new Float32Array(count);
  const first = new Uint32Array(count);
  const corners = new Uint32Array(count);
  for (let k = 0; k < count; k++) {
    const at = 16 + PIECE_BYTES * k;
    for (let axis = 0; axis < 3; axis++) centres[3 * k + axis] = view.getFloat32(at + 4 * axis, true);
    volumes[k] = view.getFloat32(at + 12, true);
    first[k] = view.getUint32(at + 16, true);
    corners[k] = view.getUint32(at + 20, true);
  }
  const data = 16 + PIECE_BYTES * count;
  // Whether there are texture coordinates (8 bytes a corner) is told by the length.
  const painted = total > 0 && (buffer.byteLength - data) / total > 20;
  const vertices = new Uint32Array(buffer, data + (painted ? 24 : 16) * total, total);
  return {
    etag,
    count,
    centres,
    volumes,
    first,
    corners,
    positions: new Float32Array(buffer, data, 3 * total),
    normals: new Int8Array(buffer, data + 12 * total, 4 * total),
    uvs: painted ? new Float32Array(buffer, data + 16 * total, 2 * total) : null,
    vertices,
    vertexCount: vertices.reduce((most, vertex) => Math.max(most, vertex + 1), 0),
  };
}

const kept = new Map<string, PieceMesh>();

/** Fetches a prop's pieces; the same stage result is parsed once. */
export async function loadPieces(
  shot: string,
  prop: string,
  stage: 'prop' | 'break',
  bake: string,
  signal: AbortSignal,
): Promise<PieceMesh> {
  const response = await request(`shots/${shot}/props/${prop}/mesh?stage=${stage}&bake=${bake}`, { signal });
  const etag = response.headers.get('ETag') ?? '';
  const known = kept.get(etag);
  if (known) {
    await response.body?.cancel();
    return known;
  }
  const mesh = parsePieces(await response.arrayBuffer(), etag);
  kept.set(etag, mesh);
  if (kept.size > 24) kept.delete(kept.keys().next().value as string);
  return mesh;
}
