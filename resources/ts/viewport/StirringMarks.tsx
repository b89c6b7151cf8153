import { useFrame } from '@react-three/fiber';
import { useContext, useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { HELPER_LAYER } from './passes';
import { stirring } from './stirring';

/** Of a dot and of the paper around it, however near it is, pixels; and by how much smaller they are where they are many. */
const SIZES = [9, 6];
const [MANY, SMALLER] = [200, 0.5];

/** What makes a square point round. */
function disc(): THREE.Texture {
  const canvas = Object.assign(document.createElement('canvas'), { width: 32, height: 32 });
  const pen = canvas.getContext('2d');
  if (pen) {
    pen.fillStyle = 'white';
    pen.arc(16, 16, 15, 0, 2 * Math.PI);
    pen.fill();
  }
  return new THREE.CanvasTexture(canvas);
}

/** Dots on what moves at the frame shown, over all that hides it: who looks for the last piece that will not rest finds it. */
export function StirringMarks() {
  const { handle, frames } = useContext(ShotContext);
  const { settleSpeed, fps } = handle.shot.document;
  const on = useView((view) => view.stirring);
  const dots = useMemo(() => {
    const round = disc();
    const style = getComputedStyle(document.documentElement);
    return ['--paper', '--ink'].map((token, k) => {
      const points = new THREE.Points(
        new THREE.BufferGeometry(),
        new THREE.PointsMaterial({
          color: style.getPropertyValue(token).trim(),
          map: round,
          sizeAttenuation: false,
          depthTest: false,
          transparent: true,
        }),
      );
      points.renderOrder = 9 + k;
      points.frustumCulled = false;
      points.layers.set(HELPER_LAYER);
      return points;
    });
  }, []);
  useEffect(
    () => () =>
      dots.forEach(({ geometry, material }) => {
        geometry.dispose();
        material.map?.dispose();
        material.dispose();
      }),
    [dots],
  );
  const last = useRef('');
  useFrame(() => {
    const frame = Math.round(clock.now);
    const far = settleSpeed / fps;
    const shown = `${frames?.bake} ${frame} ${far}`;
    if (!on || !frames || last.current === shown) return;
    const places = stirring(frames, frame, far);
    // What has not come yet is looked for again when it is drawn.
    last.current = places ? shown : '';
    const large = window.devicePixelRatio * ((places?.length ?? 0) > 3 * MANY ? SMALLER : 1);
    dots.forEach((points, k) => {
      points.material.size = large * (SIZES[k] ?? 1);
      points.geometry.dispose();
      points.geometry = new THREE.BufferGeometry().setAttribute(
        'position',
        new THREE.BufferAttribute(places ?? new Float32Array(), 3),
      );
    });
  });
  return on ? dots.map((points) => <primitive key={points.renderOrder} object={points} />) : null;
}
