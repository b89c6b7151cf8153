import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { HELPER_LAYER } from './passes';
import { usePlacing } from './placing';

/** The eye stays above the ground. */
const LOWEST = Math.PI * 0.495;

/** The view is turned by hand about what one looks at, and about what is up as the whole is placed. */
export function Orbit({ enabled }: { enabled: boolean }) {
  const camera = useThree((state) => state.camera);
  // Not what is around it: who takes hold of the pointer gets its release, and clicks are looked for on the canvas.
  const element = useThree((state) => state.gl.domElement);
  const set = useThree((state) => state.set);
  const invalidate = useThree((state) => state.invalidate);
  const placing = usePlacing();
  useEffect(() => camera.layers.enable(HELPER_LAYER), [camera]);
  const target = useRef(new THREE.Vector3(0, 0.5, 0));
  const controls = useRef<OrbitControls | null>(null);
  const on = useRef(enabled);
  useEffect(() => {
    // They ask what is up only when they are made.
    camera.up.copy(placing.up);
    const made = new OrbitControls(camera, element);
    made.target = target.current;
    made.maxPolarAngle = LOWEST;
    made.enabled = on.current;
    made.addEventListener('change', () => {
      invalidate();
    });
    controls.current = made;
    set({ controls: made });
    invalidate();
    // The place they turn about stays, and with it what others do to the old ones until they have the new.
    return () => {
      made.dispose();
    };
  }, [camera, element, placing, set, invalidate]);
  useEffect(() => {
    on.current = enabled;
    if (controls.current) controls.current.enabled = enabled;
  }, [enabled]);
  // Whoever moves the eye or the target leaves it to the next frame to look there.
  useFrame(() => {
    if (controls.current?.enabled) controls.current.update();
  }, -1);
  return null;
}
