import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import * as THREE from 'three';
import { SEEN, type PieceUniforms } from './material';
import type { PieceMesh } from './mesh';
import type { Relief } from './relief';

/** What a prop looks like, however it is moved. */
export interface Look {
  outer: string;
  /** What the outside turns to where the weight is full; null: it stays. */
  changed: string | null;
  inner: string;
  side: string;
  /** Colours of the layers along a rim, the innermost first. */
  layers: string[];
  /** Address of the art on its face. */
  face: string | null;
  /** Whether pieces may be sheets without thickness, seen from both sides. */
  sheets: boolean;
  /** What their backs show. */
  back: string;
  /** Which prop of the shot it is, from 0. */
  number: number;
  /** Whole; or it stands for a thing of the backdrop: what is behind shines through, or only shadows on it are seen. */
  seen: keyof typeof SEEN;
  /** Whether its pieces go with what its file moves. */
  rides: boolean;
  /** Null: it is even. */
  relief: Relief | null;
}

/** Keeps the colours and the picture on the face as the look says. */
export function useLook(
  uniforms: PieceUniforms,
  mesh: PieceMesh,
  { outer, changed, inner, side, layers, face, back, number, seen, rides, relief }: Look,
  hovered: number,
): void {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    uniforms.uOuter.value.set(outer);
    uniforms.uChanges.value = changed ? 1 : 0;
    if (changed) uniforms.uChanged.value.set(changed);
    uniforms.uInner.value.set(inner);
    uniforms.uSide.value.set(side);
    uniforms.uBack.value.set(back);
    layers.forEach((colour, k) => uniforms.uLayers.value[k]?.set(colour));
    uniforms.uHover.value = hovered;
    uniforms.uProp.value = number;
    uniforms.uSeen.value = SEEN[seen];
    uniforms.uRides.value = rides ? 1 : 0;
    uniforms.uRelief.value.set(relief?.outer ?? 0, relief?.inner ?? 0);
    uniforms.uApart.value.set(...(relief?.apart ?? [1, 1, 1]));
    invalidate();
  }, [uniforms, outer, changed, inner, side, back, number, seen, rides, relief, layers, hovered, invalidate]);
  useEffect(() => {
    uniforms.uPainted.value = 0;
    if (!face || !mesh.uvs) return;
    const texture = new THREE.TextureLoader().load(face, () => {
      uniforms.uPainted.value = 1;
      invalidate();
    });
    texture.colorSpace = THREE.SRGBColorSpace;
    texture.anisotropy = 4;
    uniforms.uFace.value = texture;
    return () => texture.dispose();
  }, [uniforms, face, mesh, invalidate]);
}
