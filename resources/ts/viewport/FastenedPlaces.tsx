import { useThree } from '@react-three/fiber';
import { useContext, useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { useFastened } from '../shot/useFastened';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { carriedBy } from './joints';

/** Of a dot, however near it is, pixels. */
const LARGE = 4;

/** Where the open joint fastens cloth: before a bake it goes where the keys of what it is fastened to put it. */
export function FastenedPlaces() {
  const { handle, tracks } = useContext(ShotContext);
  const open = useView((view) => view.force);
  const invalidate = useThree((state) => state.invalidate);
  const [first] = useFastened(handle.shot.document.joints.filter((joint) => joint.id === open));
  const dots = useMemo(() => {
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--teal').trim();
    const made = new THREE.Points(
      new THREE.BufferGeometry(),
      new THREE.PointsMaterial({
        color: colour,
        size: LARGE * window.devicePixelRatio,
        sizeAttenuation: false,
        depthTest: false,
        transparent: true,
      }),
    );
    made.renderOrder = 9;
    made.frustumCulled = false;
    return made;
  }, []);
  useEffect(
    () => () => {
      dots.geometry.dispose();
      dots.material.dispose();
    },
    [dots],
  );
  useEffect(() => {
    if (!first) return;
    dots.geometry.dispose();
    dots.geometry = new THREE.BufferGeometry();
    return clock.follow((frame) => {
      const carry = carriedBy(first.joint.other, tracks, frame);
      dots.geometry.setFromPoints(first.places.map((place) => carry(new THREE.Vector3(...place))));
      invalidate();
    });
  }, [first, tracks, dots, invalidate]);
  return first ? <primitive object={dots} /> : null;
}
