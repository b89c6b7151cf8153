import type * as THREE from 'three';
import { pickBent } from './deform';
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
    const hit = places ? pickBent(mesh, places, from, way) : pick(mesh, poses, radii, from, way);
    if (hit && (!nearest || hit.distance < nearest.hit.distance)) nearest = { prop: id, hit };
  }
  return nearest;
}
