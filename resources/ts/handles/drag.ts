import * as THREE from 'three';
import { eye, type Sight } from './eye';
import type { Change } from './things';

/** Parts of a handle: the grip moves across the view, the line up and down, the foot over the floor; the dial turns, the knob on it sizes. */
export type Part = 'grip' | 'line' | 'foot' | 'dial' | 'knob';

/** Places snap to this with Ctrl or Command held, m; turns to 15 degrees; sizes to tenths. */
const GRID = 0.05;
const TURN = 15;

export interface Held {
  part: Part;
  origin: THREE.Vector3;
  /** Where on the floor its foot stands. */
  foot: THREE.Vector3;
  x: number;
  y: number;
}

interface Modifiers {
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
  altKey: boolean;
}

const UP = new THREE.Vector3(0, 1, 0);

function onPlane(
  sight: Sight,
  x: number,
  y: number,
  at: THREE.Vector3,
  normal: THREE.Vector3,
): THREE.Vector3 | null {
  return sight
    .ray(x, y)
    .intersectPlane(new THREE.Plane().setFromNormalAndCoplanarPoint(normal, at), new THREE.Vector3());
}

/** The shot's axis one looks along most, towards the viewer. */
export function facingAxis(sight: Sight): THREE.Vector3 {
  const way = sight.way().negate();
  const sizes = way.toArray().map(Math.abs);
  const k = sizes.indexOf(Math.max(...sizes));
  return new THREE.Vector3().setComponent(k, Math.sign(way.getComponent(k)) || 1);
}

/**
 * What a drag to a place on the screen does. Shift keeps to the axis it goes along most, Ctrl or Command snaps to the grid,
 * Alt sets it on the surface under the pointer.
 */
export function changeOf(
  held: Held,
  x: number,
  y: number,
  keys: Modifiers,
  surface: (x: number, y: number) => THREE.Vector3 | null,
  sight: Sight = eye,
): { change: Change; says: string } {
  const snap = keys.ctrlKey || keys.metaKey;
  if (held.part === 'dial' || held.part === 'knob') {
    const middle = sight.screen(held.origin) ?? { x: held.x, y: held.y };
    const [fx, fy, tx, ty] = [held.x - middle.x, held.y - middle.y, x - middle.x, y - middle.y];
    if (held.part === 'knob') {
      const ratio = Math.max(0.01, Math.hypot(tx, ty) / Math.max(1, Math.hypot(fx, fy)));
      const size = snap ? Math.max(0.1, Math.round(ratio * 10) / 10) : ratio;
      return { change: { size }, says: `${size.toFixed(2)} ×` };
    }
    const axis = facingAxis(sight);
    // On the screen y runs down.
    const angle = THREE.MathUtils.radToDeg(Math.atan2(fy, fx) - Math.atan2(ty, tx));
    const whole = angle > 180 ? angle - 360 : angle < -180 ? angle + 360 : angle;
    const degrees = snap ? TURN * Math.round(whole / TURN) : whole;
    const name = 'xyz'[axis.toArray().findIndex((value) => value !== 0)] ?? '';
    return {
      change: { turn: new THREE.Quaternion().setFromAxisAngle(axis, THREE.MathUtils.degToRad(degrees)) },
      says: `${degrees.toFixed(0)}° about ${name}`,
    };
  }
  const move = new THREE.Vector3();
  const on = keys.altKey ? surface(x, y) : null;
  if (on) move.copy(on).sub(held.origin);
  else if (held.part === 'foot') {
    const [from, to] = [onPlane(sight, held.x, held.y, held.foot, UP), onPlane(sight, x, y, held.foot, UP)];
    if (from && to) move.copy(to).sub(from);
  } else {
    const normal = sight.way();
    if (held.part === 'line') normal.setY(0).normalize();
    const [from, to] = [
      onPlane(sight, held.x, held.y, held.origin, normal),
      onPlane(sight, x, y, held.origin, normal),
    ];
    if (from && to) move.copy(to).sub(from);
    if (held.part === 'line') move.set(0, move.y, 0);
  }
  if (keys.shiftKey && !on) {
    const sizes = move.toArray().map(Math.abs);
    const k = sizes.indexOf(Math.max(...sizes));
    move.fromArray(sizes.map((_, n) => (n === k ? move.getComponent(n) : 0)));
  }
  if (snap && !on)
    move.fromArray(
      held.origin
        .toArray()
        .map((value, k) =>
          move.getComponent(k) === 0 ? 0 : GRID * Math.round((value + move.getComponent(k)) / GRID) - value,
        ),
    );
  const now = held.origin.clone().add(move);
  return {
    change: { move },
    says:
      now
        .toArray()
        .map((value) => value.toFixed(2))
        .join('  ') + ' m',
  };
}

/** A step by an arrow key: across the view, away from and towards the viewer, and with Page Up and Page Down up and down. */
export function stepOf(key: string, large: boolean, sight: Sight = eye): Change | null {
  const step = large ? 0.1 : 0.01;
  const right = new THREE.Vector3().crossVectors(sight.way(), UP);
  const along = (way: THREE.Vector3) => {
    const k = Math.abs(way.x) >= Math.abs(way.z) ? 0 : 2;
    return new THREE.Vector3().setComponent(k, Math.sign(way.getComponent(k)) || 1);
  };
  const away = sight.way().setY(0);
  const ways: Record<string, THREE.Vector3> = {
    ArrowRight: along(right),
    ArrowLeft: along(right).negate(),
    ArrowUp: along(away),
    ArrowDown: along(away).negate(),
    PageUp: UP.clone(),
    PageDown: UP.clone().negate(),
  };
  const way = ways[key];
  return way ? { move: way.multiplyScalar(step) } : null;
}
