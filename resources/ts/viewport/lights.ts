import * as THREE from 'three';
import type { ShotDocument } from '../api/types';
import { clock } from '../state/frame';
import { keysBelow } from '../state/keyEdits';
import { numberBetween, type Numbers } from '../state/numbers';

/** Those from afar; the first throws shadows. */
export const FROM_AFAR = ['sun', 'fill', 'rim'] as const;
export type FromAfar = (typeof FROM_AFAR)[number];

/** Calls for the frame one looks at, and again at each other one where the light has keys. */
export function followLights(
  document: ShotDocument,
  listener: (frame: number) => void,
): (() => void) | undefined {
  if (keysBelow(document, ['lights']).length > 0) return clock.follow(listener);
  listener(clock.now);
  return undefined;
}

/** Where a light comes from at a frame: seen from above from z towards x, and how high above the ground. */
export function comesFrom(
  document: ShotDocument,
  numbers: Numbers,
  light: FromAfar,
  frame: number,
): THREE.Vector3 {
  const radians = (name: string) =>
    THREE.MathUtils.degToRad(numberBetween(numbers, document, ['lights', `${light}${name}`], frame));
  return new THREE.Vector3().setFromSphericalCoords(1, Math.PI / 2 - radians('Height'), radians('Angle'));
}

/** How bright one of the lights is at a frame. */
export function strengthOf(
  document: ShotDocument,
  numbers: Numbers,
  light: FromAfar | 'sky',
  frame: number,
): number {
  return numberBetween(numbers, document, ['lights', light], frame);
}

/** How dark the ground's shadows are where only the sun shines. */
const DARK = 0.41;

/** The colour of shadows on what is not drawn itself, and how dark they are now. */
export const SHADOW_COLOUR = '#3a2c1c';
export const uShadow = { value: 0 };
export const uShadowColour = { value: new THREE.Color(SHADOW_COLOUR) };

/** How dark shadows are on the ground, of which nothing else is drawn: by the sun's share of what falls on it. */
export function shadowOf(document: ShotDocument, numbers: Numbers, frame: number): number {
  const [sun, fill, rim, sky] = [...FROM_AFAR, 'sky' as const].map((light) =>
    strengthOf(document, numbers, light, frame),
  ) as [number, number, number, number];
  return sun > 0 ? (DARK * sun) / (sun + fill + rim + sky) : 0;
}
