import { useFrame, useThree } from '@react-three/fiber';
import { useContext, useEffect, useRef, type RefObject } from 'react';
import * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';
import { NUMBERS } from './numbers';
import { usePlacing } from './placing';
import type { Shown } from './Pieces';

/** Read-only look at what is drawn, for browser tests. */
export function Probe({ shown }: { shown: RefObject<Map<string, Shown>> }) {
  const { frames, bake } = useContext(ShotContext);
  const { scale } = usePlacing();
  const drawn = useRef(0);
  const { camera, size } = useThree();
  const controls = useThree((state) => state.controls) as { target: THREE.Vector3 } | null;
  useFrame(() => {
    drawn.current++;
  });
  useEffect(() => {
    // Metres a pixel at the point one turns about, for the scale bar.
    (window as unknown as { __yardScale: () => number }).__yardScale = () => {
      if (!controls) return 0;
      const fov = (camera as THREE.PerspectiveCamera).fov;
      return (
        (2 * scale * camera.position.distanceTo(controls.target) * Math.tan((fov * Math.PI) / 360)) /
        size.height
      );
    };
  }, [camera, controls, scale, size.height]);
  useEffect(() => {
    const probe = {
      get frame() {
        return useView.getState().frame;
      },
      get playing() {
        return useView.getState().playing;
      },
      get stage() {
        return useView.getState().stage;
      },
      get selected() {
        return useView.getState().propId;
      },
      get drawn() {
        return drawn.current;
      },
      get have() {
        return frames?.have ?? 0;
      },
      get bake() {
        return bake;
      },
      pieces: (prop: string) => shown.current.get(prop)?.mesh.count ?? 0,
      /** Where a piece is in the picture, in pixels from its middle. */
      screen: (prop: string, piece: number) => {
        const poses = shown.current.get(prop)?.poses();
        if (!poses) return null;
        const at = new THREE.Vector3(...poses.slice(NUMBERS * piece, NUMBERS * piece + 3)).project(camera);
        return [Math.round((at.x * size.width) / 2), Math.round((-at.y * size.height) / 2)];
      },
      size: (prop: string, piece: number) => shown.current.get(prop)?.poses()[NUMBERS * piece + 8] ?? null,
      /** Where a vertex of a bent surface is. */
      vertex: (prop: string, vertex: number) => {
        const places = shown.current.get(prop)?.places?.();
        return places ? [...places.slice(3 * vertex, 3 * vertex + 3)] : null;
      },
      normal: (prop: string, vertex: number) => shown.current.get(prop)?.normal?.(vertex) ?? null,
      position: (prop: string, piece: number) => {
        const poses = shown.current.get(prop)?.poses();
        return poses ? [...poses.slice(NUMBERS * piece, NUMBERS * piece + 3)] : null;
      },
    };
    (window as unknown as { __yard: unknown }).__yard = probe;
  }, [shown, frames, bake, camera, size]);
  return null;
}
