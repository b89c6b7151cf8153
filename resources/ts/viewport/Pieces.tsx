import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { clock } from '../state/frame';
import { contourMaterial, depthMaterial, pieceMaterial, uniformsFor } from './material';
import { NUMBERS, OPEN } from './numbers';
import { cornersOf, unlike } from './corners';
import { useLook, type Look } from './look';
import { PASS_LAYER, SOLID_LAYER } from './passes';
import type { WeightStore } from '../tracks/WeightStore';
import { BakedPieces } from './bakedPieces';
import type { PieceMesh } from './mesh';
import { bakedPoses, type BakedFrames } from './poses';

/** What the picture shows of one prop; the viewport's probe and the pointer read it too. */
export interface Shown {
  id: string;
  mesh: PieceMesh;
  /** Numbers of its pieces in the frame that is drawn. */
  poses: () => Float32Array;
  radii: Float32Array;
  /** Places of its vertices in that frame, three numbers each, where they move by themselves. */
  places?: () => Float32Array;
  /** Which way its surface is drawn to look at a vertex. */
  normal?: (vertex: number) => number[];
}

interface Props {
  id: string;
  mesh: PieceMesh;
  look: Look;
  contour: string | null;
  weights: WeightStore | null;
  threshold: number;
  hovered: number;
  /** Where its pieces are baked; null: they stand as `fill` says. */
  frames: () => BakedFrames | null;
  fill: (out: Float32Array, mesh: PieceMesh) => void;
  register: (shown: Shown) => () => void;
}

/** All pieces of one prop in one draw. */
export function Pieces(props: Props) {
  const { id, mesh, look, contour, weights, threshold, hovered, frames, fill, register } = props;
  const size = useThree((state) => state.size);
  const invalidate = useThree((state) => state.invalidate);
  const { sheets } = look;
  const uneven = look.relief !== null;
  const built = useMemo(() => {
    const corners = unlike(mesh);
    const geometry = cornersOf(mesh, corners, uneven);
    const radii = new Float32Array(mesh.count);
    for (let k = 0; k < mesh.count; k++) {
      const first = mesh.first[k] as number;
      for (let c = first; c < first + (mesh.corners[k] as number); c++)
        radii[k] = Math.max(
          radii[k] as number,
          Math.hypot(
            mesh.positions[3 * c] as number,
            mesh.positions[3 * c + 1] as number,
            mesh.positions[3 * c + 2] as number,
          ),
        );
    }
    const uniforms = uniformsFor(mesh.count);
    return {
      geometry,
      vertex: corners.corner.map((c) => mesh.vertices[c] as number),
      uniforms,
      material: pieceMaterial(uniforms, { sheets, uneven }),
      depth: depthMaterial(uniforms),
      baked: new BakedPieces(mesh.count, id),
      poses: new Float32Array(NUMBERS * mesh.count),
      radii,
    };
  }, [id, mesh, sheets, uneven]);
  /** The time of which the poses are those that are drawn; null: they are. */
  const due = useRef<{ frames: BakedFrames; time: number } | null>(null);
  /** What the geometry shows now. */
  const weighed = useRef<{ values: Uint8Array; built: object } | null>(null);
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
      built.baked.dispose();
    },
    [built],
  );
  useEffect(() => {
    // What is drawn from the bake is unpacked on the graphics card; here only if somebody asks.
    const poses = () => {
      if (due.current) bakedPoses(built.poses, due.current.frames, id, due.current.time);
      due.current = null;
      return built.poses;
    };
    return register({ id, mesh, poses, radii: built.radii });
  }, [id, mesh, built, register]);
  useLook(built.uniforms, mesh, look, hovered);
  useEffect(() => {
    built.uniforms.uThreshold.value = threshold;
    if (!weights) {
      built.uniforms.uShowWeight.value = 0;
      weighed.current = null;
    }
    invalidate();
    return weights?.follow(invalidate);
  }, [built, threshold, weights, invalidate]);
  useEffect(() => invalidate(), [fill, frames, outline, invalidate]);

  useFrame(() => {
    const values = weights?.at(clock.now);
    const before = weighed.current?.built === built ? weighed.current.values : undefined;
    const same = values?.buffer === before?.buffer && values?.byteOffset === before?.byteOffset;
    // Until there are others, those of before stay.
    if (values && !same && values.length === mesh.vertexCount) {
      weighed.current = { values, built };
      const attribute = built.geometry.getAttribute('aWeight') as THREE.BufferAttribute;
      for (let c = 0; c < built.vertex.length; c++)
        (attribute.array as Uint8Array)[c] = values[built.vertex[c] as number] as number;
      attribute.needsUpdate = true;
      built.uniforms.uShowWeight.value = 1;
    }
    const store = frames();
    if (store) {
      if (built.baked.show(built.uniforms, store, clock.now))
        due.current = { frames: store, time: clock.now };
    } else {
      due.current = null;
      fill(built.poses, mesh);
      let opened = 0;
      for (let k = 3; k < built.poses.length && opened === 0; k += NUMBERS)
        opened = (built.poses[k] as number) & OPEN;
      built.uniforms.uOpened.value = opened;
      built.uniforms.uBetween.value = -1;
      const texture = built.uniforms.uPoses.value;
      (texture.image.data as unknown as Float32Array).set(built.poses);
      texture.needsUpdate = true;
    }
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
        ref={(mesh) => [PASS_LAYER, SOLID_LAYER].forEach((layer) => mesh?.layers.enable(layer))}
        castShadow={look.seen === 'whole'}
        receiveShadow
        frustumCulled={false}
      />
      {outline ? <mesh geometry={built.geometry} material={outline} frustumCulled={false} /> : null}
    </group>
  );
}
