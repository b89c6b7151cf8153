import * as THREE from 'three';
import { chosen } from '../api/schema';
import type { ShotDocument, Tracks } from '../api/types';

export type JointDocument = ShotDocument['joints'][number];

interface Xyz {
  x: number;
  y: number;
  z: number;
}

const ROPE = 16;
const COILS = 12;
/** How wide a spring is drawn, of its length. */
const WIDE = 0.06;

/** Names of the settings that say where a joint holds on. */
export function endFields(joint: JointDocument): string[] {
  const ends = chosen(joint, 'joint').trait('ends');
  return Array.isArray(ends) ? (ends as string[]) : [];
}

/** Where a joint holds at the first frame: one end and the other, the same of a hinge. */
export function endsOf(joint: JointDocument): [THREE.Vector3, THREE.Vector3] {
  const { settings } = chosen(joint, 'joint');
  const [from = new THREE.Vector3(), to = from] = endFields(joint).map((name) => {
    const { x, y, z } = settings[name] as Xyz;
    return new THREE.Vector3(x, y, z);
  });
  return [from.clone(), to.clone()];
}

/** The same at another frame, as far as the keys of the props that they are on carry them. */
export function carriedEnds(
  joint: JointDocument,
  tracks: Tracks,
  frame: number,
): [THREE.Vector3, THREE.Vector3] {
  const [from, to] = endsOf(joint);
  return [
    carriedBy(joint.prop, tracks, frame)(from),
    carriedBy(joint.other || (endFields(joint).length === 1 ? joint.prop : ''), tracks, frame)(to),
  ];
}

/** Takes a place of the first frame to where a prop has carried it at another. */
export function carriedBy(
  prop: string,
  tracks: Tracks,
  frame: number,
): (place: THREE.Vector3) => THREE.Vector3 {
  const track = tracks[prop] ?? [];
  const [first, now] = [track[0], track[Math.min(track.length, Math.max(1, Math.round(frame))) - 1]];
  const by = first && now ? pose(now).multiply(pose(first).invert()) : new THREE.Matrix4();
  return (place) => place.applyMatrix4(by);
}

/** Without its size: a joint holds on to a place, however its prop grows. */
function pose([x = 0, y = 0, z = 0, qx = 0, qy = 0, qz = 0, qw = 1]: number[]): THREE.Matrix4 {
  return new THREE.Matrix4().compose(
    new THREE.Vector3(x, y, z),
    new THREE.Quaternion(qx, qy, qz, qw),
    new THREE.Vector3(1, 1, 1),
  );
}

/** How long a rope is, m. */
export function lengthOf(joint: JointDocument): number {
  const [from, to] = endsOf(joint);
  const slack = chosen(joint, 'joint').settings['slack'];
  return from.distanceTo(to) * (1 + (typeof slack === 'number' ? slack : 0) / 100);
}

/** Places of what is drawn for a joint between its ends: a rope hangs as far as it is longer than it must be, a spring is wound. Files have the same line (`HandOff/Cord`). */
export function drawn(joint: JointDocument, from: THREE.Vector3, to: THREE.Vector3): THREE.Vector3[] {
  const apart = from.distanceTo(to);
  const settings = chosen(joint, 'joint').settings;
  if ('slack' in settings) {
    const length = lengthOf(joint);
    const over = Math.max(0, length - apart);
    // Of a flat arc, and never deeper than if it hung in two straight lines.
    const sag = Math.min(
      Math.sqrt((3 * Math.max(apart, 1e-6) * over) / 8) + (apart < 1e-3 ? length / 2 : 0),
      Math.sqrt(Math.max(0, length * length - apart * apart)) / 2,
    );
    return Array.from({ length: ROPE + 1 }, (_, k) => {
      const share = k / ROPE;
      const place = from.clone().lerp(to, share);
      place.y -= 4 * sag * share * (1 - share);
      return place;
    });
  }
  if ('stiffness' in settings) {
    const way = to.clone().sub(from).normalize();
    const side = new THREE.Vector3(0, 1, 0).cross(way);
    if (side.lengthSq() < 1e-4) side.set(1, 0, 0);
    side.normalize().multiplyScalar(WIDE * lengthOf(joint));
    return Array.from({ length: COILS + 2 }, (_, k) => {
      const ends = k === 0 || k === COILS + 1;
      const share = ends ? k / (COILS + 1) : (k - 0.5) / COILS;
      const place = from.clone().lerp(to, share);
      return ends ? place : place.addScaledVector(side, k % 2 === 0 ? 1 : -1);
    });
  }
  return [];
}

/** Half of the axis that is drawn of a hinge, m. */
const AXIS = 0.12;

/** The axis of a hinge as it is turned at the first frame, from end to end, about a place; null: it has none. */
export function axisOf(joint: JointDocument, at = endsOf(joint)[0]): [THREE.Vector3, THREE.Vector3] | null {
  const { settings } = chosen(joint, 'joint');
  if (settings['turns'] !== 'axis') return null;
  const { x, y, z } = settings['axis'] as Xyz;
  const way = new THREE.Vector3(x, y, z);
  if (way.lengthSq() < 1e-9) way.set(0, 1, 0);
  way.normalize().multiplyScalar(AXIS);
  return [at.clone().sub(way), at.clone().add(way)];
}
