import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { contourMaterial, depthMaterial, NUMBERS, OPEN, pieceMaterial, uniformsFor } from './material';
import type { PieceMesh } from './mesh';

/** What the picture shows of one prop; the viewport's probe and the pointer read it too. */
export interface Shown {
  id: string;
  mesh: PieceMesh;
  poses: Float32Array;
  radii: Float32Array;
}

interface Props {
  id: string;
  mesh: PieceMesh;
  outer: string;
  inner: string;
  side: string;
  /** Colours of the layers along a rim, the innermost first. */
  layers: string[];
  /** Address of the art on its face. */
  face: string | null;
  /** Whether pieces may be sheets without thickness, seen from both sides. */
  sheets: boolean;
  contour: string | null;
  weights: Uint8Array | null;
  threshold: number;
  hovered: number;
  fill: (out: Float32Array, mesh: PieceMesh) => void;
  register: (shown: Shown) => () => void;
}

/** All pieces of one prop in one draw. */
export function Pieces({
  id,
  mesh,
  outer,
  inner,
  side,
  layers,
  face,
  sheets,
  contour,
  weights,
  threshold,
  hovered,
  fill,
  register,
}: Props) {
  const size = useThree((state) => state.size);
  const invalidate = useThree((state) => state.invalidate);
  const built = useMemo(() => {
    const geometry = new THREE.BufferGeometry();
    const total = mesh.positions.length / 3;
    const piece = new Float32Array(total);
    const normal = new Int8Array(3 * total);
    const look = new Uint8Array(total);
    const radii = new Float32Array(mesh.count);
    for (let k = 0; k < mesh.count; k++) {
      let far = 0;
      const first = mesh.first[k] as number;
      for (let c = first; c < first + (mesh.corners[k] as number); c++) {
        piece[c] = k;
        for (let axis = 0; axis < 3; axis++) normal[3 * c + axis] = mesh.normals[4 * c + axis] as number;
        look[c] = mesh.normals[4 * c + 3] as number;
        far = Math.max(
          far,
          Math.hypot(
            mesh.positions[3 * c] as number,
            mesh.positions[3 * c + 1] as number,
            mesh.positions[3 * c + 2] as number,
          ),
        );
      }
      radii[k] = far;
    }
    geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(normal, 3, true));
    geometry.setAttribute('aPiece', new THREE.BufferAttribute(piece, 1));
    geometry.setAttribute('aLook', new THREE.BufferAttribute(look, 1));
    geometry.setAttribute('aUv', new THREE.BufferAttribute(mesh.uvs ?? new Float32Array(2 * total), 2));
    geometry.setAttribute('aWeight', new THREE.BufferAttribute(new Uint8Array(total), 1, true));
    const uniforms = uniformsFor(mesh.count);
    const poses = new Float32Array(NUMBERS * mesh.count);
    return {
      geometry,
      uniforms,
      material: pieceMaterial(uniforms, sheets),
      depth: depthMaterial(uniforms),
      poses,
      radii,
    };
  }, [mesh, sheets]);
  const outline = useMemo(
    () => (contour ? contourMaterial(built.uniforms, new THREE.Color(contour)) : null),
    [built, contour],
  );

  useEffect(
    () => () => {
      built.geometry.dispose();
      built.material.dispose();
      built.depth.dispose();
      built.uniforms.uPoses.value.dispose();
    },
    [built],
  );
  useEffect(
    () => register({ id, mesh, poses: built.poses, radii: built.radii }),
    [id, mesh, built, register],
  );
  useEffect(() => {
    built.uniforms.uOuter.value.set(outer);
    built.uniforms.uInner.value.set(inner);
    built.uniforms.uSide.value.set(side);
    layers.forEach((colour, k) => built.uniforms.uLayers.value[k]?.set(colour));
    built.uniforms.uThreshold.value = threshold;
    built.uniforms.uHover.value = hovered;
    const attribute = built.geometry.getAttribute('aWeight') as THREE.BufferAttribute;
    const usable = weights !== null && weights.length === attribute.count;
    built.uniforms.uShowWeight.value = usable ? 1 : 0;
    if (usable) {
      attribute.copyArray(weights);
      attribute.needsUpdate = true;
    }
    invalidate();
  }, [built, outer, inner, side, layers, threshold, hovered, weights, invalidate]);
  useEffect(() => {
    built.uniforms.uPainted.value = 0;
    if (!face || !mesh.uvs) return;
    const texture = new THREE.TextureLoader().load(face, () => {
      built.uniforms.uPainted.value = 1;
      invalidate();
    });
    texture.colorSpace = THREE.SRGBColorSpace;
    texture.anisotropy = 4;
    built.uniforms.uFace.value = texture;
    return () => texture.dispose();
  }, [built, face, mesh, invalidate]);
  useEffect(() => invalidate(), [fill, outline, invalidate]);

  useFrame(() => {
    fill(built.poses, mesh);
    let opened = 0;
    for (let k = 3; k < built.poses.length && opened === 0; k += NUMBERS)
      opened = (built.poses[k] as number) & OPEN;
    built.uniforms.uOpened.value = opened;
    const texture = built.uniforms.uPoses.value;
    (texture.image.data as unknown as Float32Array).set(built.poses);
    texture.needsUpdate = true;
    (outline?.uniforms['uPixel'] as { value: THREE.Vector2 } | undefined)?.value.set(
      1 / size.width,
      1 / size.height,
    );
  });

  return (
    <group>
      <mesh
        geometry={built.geometry}
        material={built.material}
        customDepthMaterial={built.depth}
        castShadow
        receiveShadow
        frustumCulled={false}
      />
      {outline ? <mesh geometry={built.geometry} material={outline} frustumCulled={false} /> : null}
    </group>
  );
}
