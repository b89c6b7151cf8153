import { useContext } from 'react';
import * as THREE from 'three';
import type { ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import type { Numbers } from '../state/numbers';
import { useView } from '../state/view';
import { pictureAt } from './backdrop';
import { HELPER_LAYER } from './passes';
import { usePlacing } from './placing';
import { cameraPose, targetAt } from './ShotCamera';

export const GROUND_LINES = '#8a8272';

/** Squares along a side. */
const SQUARES = 40;

/** So far over the floor, of a square, they are not hidden by it. */
const OVER = 0.004;

/** The sides of all squares, each by itself: lines that reach far behind the eye are left out where no graphics card draws. */
const SIDES = new THREE.BufferGeometry().setAttribute(
  'position',
  new THREE.Float32BufferAttribute(
    [-1, 1].flatMap((along) =>
      Array.from({ length: SQUARES * (SQUARES + 1) }, (_, k) => {
        const [line, from] = [Math.floor(k / SQUARES) - SQUARES / 2, (k % SQUARES) - SQUARES / 2];
        return along > 0 ? [from, 0, line, from + 1, 0, line] : [line, 0, from, line, 0, from + 1];
      }).flat(),
    ),
    3,
  ),
);

/** How long a side of a square is, m: a power of ten that the shot's camera sees several of. */
export function squareOf(document: ShotDocument, numbers: Numbers): number {
  const away = cameraPose(document, numbers, 1).position.distanceTo(targetAt(document, numbers, 1));
  return 10 ** Math.floor(Math.log10(Math.max(1e-3, away / 3)));
}

/** Squares on the ground, while one lines the shot's camera up with the picture behind the shot. */
export function GroundSquares() {
  const { handle, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const asked = useView((view) => view.ground);
  const through = useView((view) => view.through);
  const placing = usePlacing();
  // They are switched where the picture is.
  if (!asked || !document.camera.on || pictureAt(document.backdrop, 1) === null) return null;
  const square = squareOf(document, numbers);
  const floor = document.planes.find(({ on }) => on)?.height ?? 0;
  return (
    <group
      position={placing.computed(new THREE.Vector3(0, floor + OVER * square, 0))}
      quaternion={placing.back}
      scale={1 / placing.scale}
    >
      <lineSegments geometry={SIDES} scale={square} layers-mask={1 << HELPER_LAYER}>
        <lineBasicMaterial
          color={through ? '#ffffff' : GROUND_LINES}
          transparent
          opacity={0.7}
          depthWrite={false}
        />
      </lineSegments>
    </group>
  );
}
