import * as THREE from 'three';
import type { PieceMesh } from './mesh';

/** Which corners of a mesh need be drawn: a smooth surface has six alike at each vertex. */
export interface Unlike {
  /** One of each that are alike. */
  corner: Uint32Array;
  /** For all corners, the place in that list of the one that stands for it. */
  index: Uint32Array;
}

/** Corners are alike if they are of one vertex and look alike: one normal, one look, one place on the art. */
export function unlike({ vertices, vertexCount, normals, uvs }: PieceMesh): Unlike {
  const total = vertices.length;
  const words = new Int32Array(normals.buffer, normals.byteOffset, total);
  const index = new Uint32Array(total);
  const corner = new Uint32Array(total);
  // Those of a vertex hang together, the newest first; 0 is none.
  const newest = new Uint32Array(vertexCount);
  const before = new Uint32Array(total);
  let count = 0;
  for (let c = 0; c < total; c++) {
    const vertex = vertices[c] as number;
    let known = newest[vertex] as number;
    while (known > 0) {
      const other = corner[known - 1] as number;
      if (words[other] === words[c] && alike(uvs, other, c)) break;
      known = before[known - 1] as number;
    }
    if (known === 0) {
      corner[count] = c;
      before[count] = newest[vertex] as number;
      known = newest[vertex] = ++count;
    }
    index[c] = known - 1;
  }
  return { corner: corner.slice(0, count), index };
}

function alike(uvs: Float32Array | null, a: number, b: number): boolean {
  return uvs === null || (uvs[2 * a] === uvs[2 * b] && uvs[2 * a + 1] === uvs[2 * b + 1]);
}

/**
 * A geometry with what every renderer needs of each corner that is unlike the others.
 *
 * @param uneven whether it is needed, too, where each is at rest
 */
export function cornersOf(mesh: PieceMesh, { corner, index }: Unlike, uneven: boolean): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry();
  const total = corner.length;
  const position = new Float32Array(3 * total);
  const piece = new Float32Array(total);
  const normal = new Int8Array(3 * total);
  const look = new Uint8Array(total);
  const uv = new Float32Array(2 * total);
  const rest = new Float32Array(uneven ? 3 * total : 0);
  let k = 0;
  for (let i = 0; i < total; i++) {
    const c = corner[i] as number;
    // Pieces stand one after the other, and what stands for others is the first of them.
    while (c >= (mesh.first[k] as number) + (mesh.corners[k] as number)) k++;
    piece[i] = k;
    for (let axis = 0; axis < 3; axis++) {
      position[3 * i + axis] = mesh.positions[3 * c + axis] as number;
      if (uneven)
        rest[3 * i + axis] =
          (mesh.positions[3 * c + axis] as number) + (mesh.centres[3 * k + axis] as number);
      normal[3 * i + axis] = mesh.normals[4 * c + axis] as number;
    }
    look[i] = mesh.normals[4 * c + 3] as number;
    if (mesh.uvs) uv.set(mesh.uvs.subarray(2 * c, 2 * c + 2), 2 * i);
  }
  geometry.setIndex(new THREE.BufferAttribute(index, 1));
  geometry.setAttribute('position', new THREE.BufferAttribute(position, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(normal, 3, true));
  if (uneven) geometry.setAttribute('aRest', new THREE.BufferAttribute(rest, 3));
  geometry.setAttribute('aPiece', new THREE.BufferAttribute(piece, 1));
  geometry.setAttribute('aLook', new THREE.BufferAttribute(look, 1));
  geometry.setAttribute('aUv', new THREE.BufferAttribute(uv, 2));
  geometry.setAttribute('aWeight', new THREE.BufferAttribute(new Uint8Array(total), 1, true));
  return geometry;
}
