import type * as THREE from 'three';
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
  expect(bakedPoses(out, frames, 'p', 1.25)).toBe(true);
  expect(out[NUMBERS - 1]).toBeCloseTo(0.25);
  expect(out[2 * NUMBERS - 1]).toBeCloseTo(0.3);
  // What bends has no poses.
  expect(bakedPoses(out, store({ vertices: [pose, pose] }), 'p', 1)).toBe(false);
  // Before a bake nothing has changed.
  const mesh = { count: 2, volumes: [1, 1], centres: new Float32Array(6) } as unknown as PieceMesh;
  restPoses(out, mesh, [0, 0, 0, 0, 0, 0, 1], 0);
  expect([out[NUMBERS - 1], out[2 * NUMBERS - 1]]).toEqual([0, 0]);
});

it('gives the graphics card the bytes as they are stored, each baked frame once', () => {
  let reads = 0;
  const bytes: Record<string, (frame: number) => Uint8Array> = {
    pose: (frame) => {
      reads++;
      return new Uint8Array(Uint32Array.from({ length: 8 }, (_, k) => 100 * frame + k).buffer);
    },
    flags: (frame) => Uint8Array.from([0, frame > 2 ? 1 : 0]),
    weight: (frame) => Uint8Array.from([10 * frame, 20]),
    scale: (frame) => new Uint8Array(Float32Array.from({ length: 6 }, () => frame).buffer),
  };
  const frames: BakedFrames = {
    have: 4,
    at: () => undefined,
    bytesAt: (frame, _prop, kind) => bytes[kind]?.(frame),
  };
  const uniforms = uniformsFor(2);
  const data = (texture: unknown) => [
    ...((texture as { image: { data: Uint32Array } }).image.data.slice(0, 8) as Iterable<number>),
  ];
  const baked = new BakedPieces(2, 'p');
  expect(baked.show(uniforms, frames, 1.25)).toBe(true);
  expect(uniforms.uBetween.value).toBeCloseTo(0.25);
  expect(uniforms.uOpened.value).toBe(0);
  expect(data(uniforms.uPacked.value[1])).toEqual([200, 201, 202, 203, 204, 205, 206, 207]);
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
});

it('gives the graphics card the places of what bends as they are stored, and has their normals worked out once a frame', () => {
  const mesh = { count: 1, vertexCount: 2, vertices: new Uint32Array() } as unknown as PieceMesh;
  // Bounds of two metres, then steps; frame 3 is at rest, the same bytes as frame 2.
  const record = (frame: number) => {
    const bytes = new Uint8Array(24 + 12);
    new Float32Array(bytes.buffer, 0, 6).set([frame, 0, 0, frame + 2, 2, 2]);
    new Uint16Array(bytes.buffer, 24).set([100 * frame, 1, 2, 3, 4, 5]);
    return bytes;
  };
  const moved = record(2);
  const records = [record(1), moved, moved.subarray(0)];
  const frames: BakedFrames = {
    have: 3,
    at: () => undefined,
    bytesAt: (frame, _prop, kind) =>
      kind === 'vertices' ? records[Math.floor(frame) - 1] : Uint8Array.from([10 * frame, 20]),
  };
  let drawn = 0;
  const gl = { getRenderTarget: () => null, setRenderTarget: () => undefined, render: () => drawn++ };
  const uniforms = uniformsFor(0);
  const baked = new BakedVertices(mesh, { shade: new Uint32Array(), count: 0, sewn: [] }, 'p');
  const steps = (k: number) => [
    ...((uniforms.uSteps.value[k] as THREE.DataTexture).image.data as unknown as Uint16Array).slice(0, 6),
  ];
  baked.show(gl, uniforms, frames, 1.5);
  expect(steps(0)).toEqual([100, 1, 2, 3, 4, 5]);
  expect(steps(1)).toEqual([200, 1, 2, 3, 4, 5]);
  expect(uniforms.uFrom.value[1]?.x).toBe(2);
  expect(uniforms.uSpan.value[1]?.y).toBeCloseTo(2 / 65535, 9);
  expect(uniforms.uBetween.value).toBe(0.5);
  expect(drawn).toBe(2);
  baked.show(gl, uniforms, frames, 1.75);
  baked.show(gl, uniforms, frames, 2);
  expect(drawn).toBe(2);
  baked.show(gl, uniforms, frames, 2.5);
  expect(drawn).toBe(3);
  expect(
    [...((uniforms.uChange.value[1] as THREE.DataTexture).image.data as unknown as Uint8Array)].slice(0, 2),
  ).toEqual([30, 20]);
  // Past the end it stays at the last.
  baked.show(gl, uniforms, frames, 9);
  expect(drawn).toBe(3);
  expect(steps(0)).toEqual([200, 1, 2, 3, 4, 5]);
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
