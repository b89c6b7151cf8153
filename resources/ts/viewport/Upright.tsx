import { useFrame, useThree } from '@react-three/fiber';
import { useContext, useEffect, useRef, useState } from 'react';
import * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';
import { look } from './FitCamera';
import { GROUND_LINES } from './GroundSquares';
import { HELPER_LAYER } from './passes';
import { COMPUTED, usePlacing } from './placing';

/** Circles on the ground about the middle of the shot. */
const CIRCLES = 12;

/** Shows the whole as it is placed: up is up there, and the ground lies beneath it. */
export function Upright() {
  const { camera: shotCamera } = useContext(ShotContext).handle.shot.document;
  const through = useView((view) => view.through) && shotCamera.on;
  const camera = useThree((state) => state.camera);
  const controls = useThree((state) => state.controls) as { target: THREE.Vector3 } | null;
  const invalidate = useThree((state) => state.invalidate);
  const placing = usePlacing();
  const before = useRef(COMPUTED);
  const [apart, setApart] = useState(1);
  useEffect(() => {
    if (!controls) return;
    // The shot's camera gives the view back as it was.
    if (through || before.current === placing) return;
    const was = before.current;
    before.current = placing;
    if (was === COMPUTED || placing === COMPUTED) look('corner');
    else {
      // While it is placed by hand one sees it move: the eye stays.
      camera.position.copy(placing.computed(was.placed(camera.position)));
      controls.target.copy(placing.computed(was.placed(controls.target)));
    }
    invalidate();
  }, [placing, through, camera, controls, invalidate]);
  useFrame(() => {
    if (!controls || placing === COMPUTED) return;
    const away = placing.scale * camera.position.distanceTo(controls.target);
    setApart(10 ** Math.floor(Math.log10(Math.max(1e-3, away / 3))));
  });
  if (placing === COMPUTED) return null;
  return (
    <group
      position={placing.computed(new THREE.Vector3())}
      quaternion={placing.back}
      scale={1 / placing.scale}
    >
      <polarGridHelper args={[CIRCLES * apart, 1, CIRCLES, 96]} key={apart} layers-mask={1 << HELPER_LAYER}>
        <lineBasicMaterial attach="material" color={GROUND_LINES} transparent opacity={0.35} />
      </polarGridHelper>
    </group>
  );
}
