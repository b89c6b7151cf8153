import { useContext, useMemo } from 'react';
import * as THREE from 'three';
import type { ShotDocument } from '../api/types';
import type { Sight } from '../handles/eye';
import { fromDegrees } from '../handles/things';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';

const UP = new THREE.Vector3(0, 1, 0);

/** Where something stands and how it is turned. */
export interface Stand {
  position: THREE.Vector3;
  turn: THREE.Quaternion;
}

/**
 * Where the result stands as a whole. The picture stays in the space in which things are computed, so that all that is drawn,
 * picked and measured there goes on as it is: it is the camera, the light and the ground that are turned the other way.
 */
export class Placing {
  constructor(
    readonly position = new THREE.Vector3(),
    readonly turn = new THREE.Quaternion(),
    readonly scale = 1,
  ) {}

  get back(): THREE.Quaternion {
    return this.turn.clone().invert();
  }

  /** Which way is up, where things are computed. */
  get up(): THREE.Vector3 {
    return UP.clone().applyQuaternion(this.back);
  }

  /** Where a place of the placed result is computed. */
  computed(place: THREE.Vector3): THREE.Vector3 {
    return place.clone().sub(this.position).applyQuaternion(this.back).divideScalar(this.scale);
  }

  /** What sees the placed result so sees the same where it is computed from there. */
  eye({ position, turn }: Stand): Stand {
    return { position: this.computed(position), turn: this.back.multiply(turn) };
  }

  /** What is placed, as it is seen by what sees where it is computed. */
  sight(by: Sight): Sight {
    return {
      screen: (place) => by.screen(this.computed(place)),
      ray: (x, y) => {
        const { origin, direction } = by.ray(x, y);
        return new THREE.Ray(this.placed(origin), direction.clone().applyQuaternion(this.turn));
      },
      way: () => by.way().applyQuaternion(this.turn),
    };
  }

  /** Where a place stands once it is placed. */
  placed(place: THREE.Vector3): THREE.Vector3 {
    return place.clone().multiplyScalar(this.scale).applyQuaternion(this.turn).add(this.position);
  }
}

export const COMPUTED = new Placing();

export function placingOf({ on, position, rotation, scale }: ShotDocument['placing']): Placing {
  return on
    ? new Placing(
        new THREE.Vector3(position.x, position.y, position.z),
        fromDegrees(new THREE.Vector3(rotation.x, rotation.y, rotation.z)),
        scale,
      )
    : COMPUTED;
}

/** How the picture shows the whole: placed where the result is looked at and through the shot's camera, else as it is computed. */
export function usePlacing(): Placing {
  const { placing, camera } = useContext(ShotContext).handle.shot.document;
  const placed = useView(
    (view) => view.stage === 'bake' || view.stage === 'handoff' || (view.through && camera.on),
  );
  return useMemo(() => (placed ? placingOf(placing) : COMPUTED), [placed, placing]);
}
