import { describe, expect, it } from 'vitest';
import { cornersOf, unlike } from '../../resources/ts/viewport/corners';
import type { PieceMesh } from '../../resources/ts/viewport/mesh';
import { reliefOf } from '../../resources/ts/viewport/relief';
import { documentOf } from './harness';

const look = (more: object) => ({ ...(documentOf().props[0]?.look as object), ...more }) as never;

describe('the relief of a surface', () => {
  it('is none unless one of its depths is', () => {
    expect(reliefOf(look({}))).toBeNull();
    expect(reliefOf(look({ relief: 0.002 }))).toEqual({ outer: 0.002, inner: 0, apart: [0.02, 0.02, 0.02] });
    expect(reliefOf(look({ innerRelief: 0.001, reliefSize: 0.1 }))?.inner).toBe(0.001);
    expect(reliefOf(look({ relief: 0.002, reliefAlong: 'y' }))?.apart).toEqual([0.02, 0.16, 0.02]);
  });

  it('goes on from piece to piece, as they lay at rest', () => {
    // Two pieces of a triangle each, about middles of their own, with an edge in common.
    const mesh = {
      vertices: new Uint32Array([0, 1, 2, 3, 4, 5]),
      vertexCount: 6,
      positions: new Float32Array([-1, 0, 0, 0, 1, 0, 0, -1, 0, 0, 1, 0, 1, 0, 0, 0, -1, 0]),
      centres: new Float32Array([1, 2, 3, 1, 2, 3]),
      normals: new Int8Array(24),
      uvs: null,
      first: new Uint32Array([0, 3]),
      corners: new Uint32Array([3, 3]),
    } as unknown as PieceMesh;
    const rest = cornersOf(mesh, unlike(mesh), true).getAttribute('aRest');
    const at = (corner: number) => [rest.getX(corner), rest.getY(corner), rest.getZ(corner)];
    expect(at(0)).toEqual([0, 2, 3]);
    expect(at(1)).toEqual(at(3));
    expect(at(2)).toEqual(at(5));
    expect(cornersOf(mesh, unlike(mesh), false).hasAttribute('aRest')).toBe(false);
  });
});
