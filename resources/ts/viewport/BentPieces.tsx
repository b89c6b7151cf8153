import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { clock } from '../state/frame';
import { bakedPlaces, bentNormals, shadingOf } from './deform';
import { cornersOf, useLook, type Look } from './look';
import { depthMaterial, pieceMaterial, texels, uniformsFor } from './material';
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
  const built = useMemo(() => {
    const geometry = cornersOf(mesh);
    const shading = shadingOf(mesh);
    geometry.setAttribute('aVertex', new THREE.BufferAttribute(Float32Array.from(mesh.vertices), 1));
    geometry.setAttribute('aShade', new THREE.BufferAttribute(Float32Array.from(shading.shade), 1));
    const uniforms = uniformsFor(0);
    const places = texels(mesh.vertexCount);
    const normals = texels(shading.count);
    uniforms.uVertices.value = places;
    uniforms.uNormals.value = normals;
    return {
      geometry,
      shading,
      uniforms,
      places,
      normals,
      material: pieceMaterial(uniforms, look.sheets, 'vertices'),
      depth: depthMaterial(uniforms, 'vertices'),
    };
  }, [mesh, look.sheets]);
  useEffect(
    () => () => {
      built.geometry.dispose();
      built.material.dispose();
      built.depth.dispose();
      built.places.dispose();
      built.normals.dispose();
    },
    [built],
  );
  const data = built.places.image.data as unknown as Float32Array;
  useEffect(
    () => register({ id, mesh, poses: new Float32Array(), radii: new Float32Array(), places: data }),
    [id, mesh, data, register],
  );
  useLook(built.uniforms, mesh, look, hovered);
  useEffect(() => invalidate(), [frames, invalidate]);

  useFrame(() => {
    if (!bakedPlaces(data, frames, id, clock.now)) return;
    bentNormals(built.normals.image.data as unknown as Float32Array, mesh, built.shading, data);
    built.places.needsUpdate = true;
    built.normals.needsUpdate = true;
  });

  return (
    <mesh
      geometry={built.geometry}
      material={built.material}
      customDepthMaterial={built.depth}
      castShadow
      receiveShadow
      frustumCulled={false}
    />
  );
}
