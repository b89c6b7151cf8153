import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { clock } from '../state/frame';
import { BakedVertices } from './bakedVertices';
import { cornersOf, unlike } from './corners';
import { bakedPlaces, shadingOf } from './deform';
import { useLook, type Look } from './look';
import { PASS_LAYER, SOLID_LAYER } from './passes';
import { depthMaterial, pieceMaterial, uniformsFor } from './material';
import type { PieceMesh } from './mesh';
import type { Shown } from './Pieces';
import type { BakedFrames } from './poses';

interface Props {
  id: string;
  mesh: PieceMesh;
  frames: BakedFrames;
  look: Look;
  hovered: number;
  register: (shown: Shown) => () => void;
}

/** A prop whose vertices move each by itself, as the bake has them; one draw. */
export function BentPieces({ id, mesh, frames, look, hovered, register }: Props) {
  const invalidate = useThree((state) => state.invalidate);
  const gl = useThree((state) => state.gl);
  const { sheets } = look;
  const uneven = look.relief !== null;
  const built = useMemo(() => {
    const corners = unlike(mesh);
    const geometry = cornersOf(mesh, corners, uneven);
    const shading = shadingOf(mesh);
    // Which of a list each corner that is drawn has.
    const of = (list: Uint32Array) =>
      new THREE.BufferAttribute(
        Float32Array.from(corners.corner, (c) => list[c] as number),
        1,
      );
    geometry.setAttribute('aVertex', of(mesh.vertices));
    geometry.setAttribute('aShade', of(shading.shade));
    const uniforms = uniformsFor(0);
    return {
      geometry,
      uniforms,
      shading,
      baked: new BakedVertices(mesh, shading, id),
      material: pieceMaterial(uniforms, { sheets, uneven }, 'vertices'),
      depth: depthMaterial(uniforms, 'vertices'),
    };
  }, [id, mesh, sheets, uneven]);
  useEffect(
    () => () => {
      built.geometry.dispose();
      built.material.dispose();
      built.depth.dispose();
      built.baked.dispose();
    },
    [built],
  );
  useEffect(() => {
    const now = new Float32Array(3 * mesh.vertexCount);
    const places = () => {
      bakedPlaces(now, frames, id, clock.now);
      return now;
    };
    const normal = (vertex: number) =>
      built.baked.normal(gl, built.shading.shade[mesh.vertices.indexOf(vertex)] ?? 0);
    return register({ id, mesh, poses: () => new Float32Array(), radii: new Float32Array(), places, normal });
  }, [id, mesh, frames, gl, built, register]);
  useLook(built.uniforms, mesh, look, hovered);
  useEffect(() => invalidate(), [frames, invalidate]);

  useFrame(() => {
    built.baked.show(gl, built.uniforms, frames, clock.now);
  });

  return (
    <mesh
      geometry={built.geometry}
      material={built.material}
      customDepthMaterial={built.depth}
      ref={(mesh) => [PASS_LAYER, SOLID_LAYER].forEach((layer) => mesh?.layers.enable(layer))}
      castShadow={look.seen === 'whole'}
      receiveShadow
      frustumCulled={false}
    />
  );
}
