import * as THREE from 'three';
import { pickBent } from './deform';
import type { PieceMesh } from './mesh';
import type { Shown } from './Pieces';
import { pick, type Hit } from './poses';

/** What a ray meets first: the prop, and where on it. */
export function underRay(
  shown: Iterable<Shown>,
  ray: THREE.Ray,
  but: string | null = null,
): { prop: string; hit: Hit } | null {
  const [from, way] = [ray.origin.toArray(), ray.direction.toArray()];
  let nearest: { prop: string; hit: Hit } | null = null;
  for (const { id, mesh, poses, radii, places } of shown) {
    if (id === but) continue;
    const hit = places ? pickBent(mesh, places(), from, way) : pick(mesh, poses(), radii, from, way);
    if (hit && (!nearest || hit.distance < nearest.hit.distance)) nearest = { prop: id, hit };
  }
  return nearest;
}

/** Says which piece of the clicked prop a place in its own space is on. */
export type PieceOn = (place: [number, number, number]) => number;

/** The piece that a place of the prop's own space is on, or nearest to. */
export function pieceAt(mesh: PieceMesh, place: [number, number, number]): number {
  const triangle = new THREE.Triangle();
  const corners = [triangle.a, triangle.b, triangle.c];
  const [point, closest] = [new THREE.Vector3(), new THREE.Vector3()];
  let [found, least] = [0, Infinity];
  for (let k = 0; k < mesh.count; k++) {
    // Positions are from the piece's centre.
    point
      .fromArray(mesh.centres, 3 * k)
      .negate()
      .add({ x: place[0], y: place[1], z: place[2] });
    const first = mesh.first[k] as number;
    for (let c = first; c < first + (mesh.corners[k] as number); c += 3) {
      corners.forEach((corner, n) => corner.fromArray(mesh.positions, 3 * (c + n)));
      const far = triangle.closestPointToPoint(point, closest).distanceToSquared(point);
      if (far < least) [found, least] = [k, far];
    }
  }
  return found;
}
