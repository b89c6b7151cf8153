import { expect, it } from 'vitest';
import { bakedPlaces } from '../../resources/ts/viewport/deform';
import { NUMBERS } from '../../resources/ts/viewport/material';
import { bakedPoses, restPoses } from '../../resources/ts/viewport/poses';
import type { PieceMesh } from '../../resources/ts/viewport/mesh';

/** Frames of a prop: numbers of a track at frame 1 and at frame 2. */
const store = (tracks: Record<string, [number[], number[]]>) => ({
  have: 2,
  at: (frame: number, _prop: string, kind: string) => {
    const both = tracks[kind];
    return both && Float32Array.from(both[Math.floor(frame) - 1] ?? both[1]);
  },
});

it('says of each piece how far it has changed, between frames too', () => {
  const pose = [0, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 0, 1];
  const frames = store({
    pose: [pose, pose],
    flags: [
      [0, 0],
      [0, 0],
    ],
    weight: [
      [0, 0.2],
      [1, 0.6],
    ],
  });
  const out = new Float32Array(2 * NUMBERS);
  bakedPoses(out, frames, 'p', 1.25);
  expect(out[NUMBERS - 1]).toBeCloseTo(0.25);
  expect(out[2 * NUMBERS - 1]).toBeCloseTo(0.3);
  // Before a bake nothing has changed.
  const mesh = { count: 2, volumes: [1, 1], centres: new Float32Array(6) } as unknown as PieceMesh;
  restPoses(out, mesh, [0, 0, 0, 0, 0, 0, 1], 0);
  expect([out[NUMBERS - 1], out[2 * NUMBERS - 1]]).toEqual([0, 0]);
});

it('says it of each vertex beside its place', () => {
  const frames = store({
    vertices: [
      [0, 0, 0, 1, 1, 1],
      [2, 0, 0, 1, 1, 1],
    ],
    weight: [
      [0, 1],
      [0.5, 0],
    ],
  });
  const out = new Float32Array(8);
  expect(bakedPlaces(out, frames, 'p', 1.5)).toBe(true);
  expect([...out]).toEqual([1, 0, 0, 0.25, 1, 1, 1, 0.5]);
});
