import { useEffect, useMemo } from 'react';
import { useThree } from '@react-three/fiber';
import * as THREE from 'three';
import { chosen, holds } from '../api/schema';
import type { PropDocument } from '../api/types';

const SEGMENTS = 72;
const ORIGIN = { x: 0, y: 0, z: 0 };
const UP = { x: 0, y: 1, z: 0 };
const NONE: Place[] = [];

type Place = { x: number; y: number; z: number };
/** What a pattern may say of places; each has some of them. */
interface Places {
  at?: Place;
  axis?: Place;
  places?: Place[];
  radius?: number;
  reach?: number;
}

/** Where the blow lands and how far it reaches: a ring about the place, and its direction. */
export function PlaceMarker({ prop, pose }: { prop: PropDocument; pose: number[] | undefined }) {
  const pattern = chosen(prop.break, 'pattern');
  const settings = pattern.settings as unknown as Places;
  const invalidate = useThree((state) => state.invalidate);
  const at = pattern.fields['at'];
  const matters = at !== undefined && (!at['x-when'] || holds(at['x-when'], pattern.settings, {}));
  // A blow or an opening has a radius and a direction; a finer region only a reach.
  const directed = pattern.has('directed');
  const reach = (directed ? settings.radius : settings.reach) ?? 0;
  const { x, y, z } = settings.at ?? ORIGIN;
  const axis = settings.axis ?? UP;
  const places = settings.places ?? NONE;
  const curve = pattern.has('curve');
  const line = useMemo(() => {
    const way = new THREE.Vector3(axis.x, axis.y, axis.z);
    if (way.lengthSq() < 1e-9) way.set(0, 1, 0);
    way.normalize();
    const turn = new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 0, 1), way);
    const points: THREE.Vector3[] = [];
    if (curve) {
      // The line the grain follows.
      places.forEach((place, k) => {
        const next = places[k + 1];
        if (next)
          points.push(
            new THREE.Vector3(place.x, place.y, place.z),
            new THREE.Vector3(next.x, next.y, next.z),
          );
      });
    }
    for (const middle of curve ? [] : [{ x, y, z }, ...places]) {
      const add = (a: THREE.Vector3, b: THREE.Vector3) => {
        for (const end of [a, b])
          points.push(end.applyQuaternion(turn).add(new THREE.Vector3(middle.x, middle.y, middle.z)));
      };
      for (const radius of [reach, reach * 0.04]) {
        for (let k = 0; k < SEGMENTS; k++) {
          const at = (step: number) => (2 * Math.PI * step) / SEGMENTS;
          add(
            new THREE.Vector3(radius * Math.cos(at(k)), radius * Math.sin(at(k)), 0),
            new THREE.Vector3(radius * Math.cos(at(k + 1)), radius * Math.sin(at(k + 1)), 0),
          );
        }
      }
      // The blow comes from where the line starts.
      if (directed) add(new THREE.Vector3(0, 0, -0.5 * reach), new THREE.Vector3(0, 0, 0));
    }
    const geometry = new THREE.BufferGeometry().setFromPoints(points);
    const material = new THREE.LineBasicMaterial({
      color: '#0b6663',
      depthTest: false,
      transparent: true,
      opacity: 0.9,
    });
    return new THREE.LineSegments(geometry, material);
  }, [axis.x, axis.y, axis.z, places, curve, reach, directed, x, y, z]);
  useEffect(() => {
    invalidate();
    return () => {
      line.geometry.dispose();
      line.material.dispose();
    };
  }, [line, invalidate]);
  if (!matters && !(curve && places.length > 0)) return null;
  const [px = 0, py = 0, pz = 0, qx = 0, qy = 0, qz = 0, qw = 1, sx = 1, sy = 1, sz = 1] = pose ?? [];
  return (
    <primitive
      object={line}
      position={[px, py, pz]}
      quaternion={[qx, qy, qz, qw]}
      scale={[sx, sy, sz]}
      renderOrder={10}
    />
  );
}
