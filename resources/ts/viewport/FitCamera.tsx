import { useFrame, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useRef, type RefObject } from 'react';
import * as THREE from 'three';
import { HIDDEN, NUMBERS } from './material';
import type { Shown } from './Pieces';

/** Frames the whole shot when it opens, and when asked to. */
export function FitCamera({
  shown,
  ready,
  shotId,
}: {
  shown: RefObject<Map<string, Shown>>;
  ready: boolean;
  shotId: string;
}) {
  const camera = useThree((state) => state.camera);
  const controls = useThree((state) => state.controls) as {
    target: THREE.Vector3;
    update: () => void;
  } | null;
  const invalidate = useThree((state) => state.invalidate);
  const done = useRef('');
  const fit = useCallback(() => {
    const box = new THREE.Box3();
    for (const { mesh, poses, radii } of shown.current.values()) {
      for (let k = 0; k < mesh.count; k++) {
        if ((poses[NUMBERS * k + 3] as number) >= HIDDEN) continue;
        const centre = new THREE.Vector3(poses[NUMBERS * k], poses[NUMBERS * k + 1], poses[NUMBERS * k + 2]);
        box.union(
          new THREE.Box3().setFromCenterAndSize(
            centre,
            new THREE.Vector3().setScalar(1.6 * (radii[k] as number) * (poses[NUMBERS * k + 8] as number)),
          ),
        );
      }
    }
    if (box.isEmpty() || !controls) return;
    box.expandByPoint(new THREE.Vector3(box.min.x, Math.max(0, Math.min(box.min.y, 0)), box.min.z));
    const middle = box.getCenter(new THREE.Vector3());
    const size = Math.max(box.getSize(new THREE.Vector3()).length(), 0.02);
    const way = new THREE.Vector3(0.62, 0.32, 1).normalize();
    camera.position.copy(middle).addScaledVector(way, size * 1.55);
    camera.near = size / 200;
    camera.far = size * 200;
    (camera as THREE.PerspectiveCamera).updateProjectionMatrix();
    controls.target.copy(middle);
    controls.update();
    invalidate();
  }, [camera, controls, invalidate, shown]);
  useFrame(() => {
    if (ready && controls && done.current !== shotId && shown.current.size > 0) {
      done.current = shotId;
      // The poses are written in this same frame.
      requestAnimationFrame(fit);
    }
  });
  useEffect(() => {
    window.addEventListener('yard:fit', fit);
    return () => window.removeEventListener('yard:fit', fit);
  }, [fit]);
  return null;
}
