import { expect, it } from 'vitest';
import { BakedPieces } from '../../resources/ts/viewport/bakedPieces';
import { BakedVertices } from '../../resources/ts/viewport/bakedVertices';
import { bakedPlaces } from '../../resources/ts/viewport/deform';
import { NUMBERS } from '../../resources/ts/viewport/numbers';
import { uniformsFor } from '../../resources/ts/viewport/material';
import { bakedPoses, restPoses, type BakedFrames } from '../../resources/ts/viewport/poses';
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

it('gives the graphics card the bytes as they are stored, each baked frame once', () => {
  const mesh = { count: 2, vertexCount: 2, vertices: new Uint32Array() } as unknown as PieceMesh;
  let reads = 0;
  const bytes: Record<string, (frame: number) => Uint8Array> = {
    pose: (frame) => {
      reads++;
      return new Uint8Array(Uint32Array.from({ length: 10 }, (_, k) => 100 * frame + k).buffer);
    },
    flags: (frame) => Uint8Array.from([0, frame > 2 ? 1 : 0]),
    weight: (frame) => Uint8Array.from([10 * frame, 20]),
    scale: (frame) => new Uint8Array(Float32Array.from({ length: 6 }, () => frame).buffer),
  };
  const frames: BakedFrames = {
    have: 4,
    at: (frame, _prop, kind) =>
      kind === 'vertices' ? Float32Array.from([frame, 0, 0, 0, frame, 0]) : undefined,
    bytesAt: (frame, _prop, kind) => bytes[kind]?.(frame),
  };
  const uniforms = uniformsFor(2);
  const data = (texture: unknown) => [
    ...((texture as { image: { data: Uint32Array } }).image.data.slice(0, 10) as Iterable<number>),
  ];
  const baked = new BakedPieces(2, 'p');
  expect(baked.show(uniforms, frames, 1.25)).toBe(true);
  expect(uniforms.uBetween.value).toBeCloseTo(0.25);
  expect(uniforms.uOpened.value).toBe(0);
  expect(data(uniforms.uPacked.value[1])).toEqual([200, 201, 202, 203, 204, 205, 206, 207, 208, 209]);
  // No life track: all of it is left; then how far it has changed, and the flags.
  expect(data(uniforms.uMarks.value[0]).slice(0, 8)).toEqual([255, 10, 0, 0, 255, 20, 0, 0]);
  expect(data(uniforms.uSizes.value[1]).slice(0, 6)).toEqual([2, 2, 2, 2, 2, 2]);
  // Between the same two frames nothing is read again; one on, only the new one.
  baked.show(uniforms, frames, 1.75);
  expect(reads).toBe(2);
  baked.show(uniforms, frames, 2.5);
  expect(reads).toBe(3);
  baked.show(uniforms, frames, 3);
  expect(reads).toBe(3);
  expect(uniforms.uOpened.value).toBe(1);
  // What is not there changes nothing.
  expect(baked.show(uniforms, { ...frames, bytesAt: () => undefined }, 1)).toBe(false);
  expect(data(uniforms.uPacked.value[0])[0]).toBe(300);

  new BakedVertices(mesh, { shade: new Uint32Array(), count: 0, sewn: [] }, 'p').show(uniforms, frames, 9);
  expect(data(uniforms.uVertices.value[0]).slice(0, 6)).toEqual([4, 0, 0, 0, 4, 0]);
  expect(data(uniforms.uChange.value[0]).slice(0, 2)).toEqual([40, 20]);
});

it('reads places of what bends between frames', () => {
  const frames = store({
    vertices: [
      [0, 0, 0, 1, 1, 1],
      [2, 0, 0, 1, 1, 1],
    ],
  });
  const out = new Float32Array(6);
  expect(bakedPlaces(out, frames, 'p', 1.5)).toBe(true);
  expect([...out]).toEqual([1, 0, 0, 1, 1, 1]);
});
