import { useFrame, useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import * as THREE from 'three';

/** How places are seen: where they are on the screen, and what of the screen looks where. */
export interface Sight {
  /** Pixels from the upper left corner; null: behind the camera. */
  screen: (place: THREE.Vector3) => { x: number; y: number } | null;
  ray: (x: number, y: number) => THREE.Ray;
  /** Where the camera looks. */
  way: () => THREE.Vector3;
}

/** The camera of the picture, for what is drawn over it; set by {@link EyeOf} inside the canvas. */
class Eye implements Sight {
  camera: THREE.Camera | null = null;
  /** What one turns about. */
  readonly target = new THREE.Vector3();
  width = 1;
  height = 1;
  /** Draws the picture again. */
  redraw: () => void = () => undefined;
  private readonly listeners = new Set<() => void>();

  /** Calls whenever the picture has been drawn. */
  follow(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  drawn(): void {
    this.listeners.forEach((listener) => listener());
  }

  screen(place: THREE.Vector3): { x: number; y: number } | null {
    if (!this.camera) return null;
    const at = place.clone().project(this.camera);
    return at.z > 1 ? null : { x: (0.5 + 0.5 * at.x) * this.width, y: (0.5 - 0.5 * at.y) * this.height };
  }

  /** How many pixels a metre is at a place. */
  pixels(place: THREE.Vector3): number {
    const camera = this.camera;
    if (!(camera instanceof THREE.PerspectiveCamera)) return 0;
    const away = place.clone().sub(camera.position).dot(this.way());
    return this.height / (2 * Math.max(1e-6, away) * Math.tan((camera.fov * Math.PI) / 360));
  }

  ray(x: number, y: number): THREE.Ray {
    const caster = new THREE.Raycaster();
    if (this.camera)
      caster.setFromCamera(
        new THREE.Vector2((2 * x) / this.width - 1, 1 - (2 * y) / this.height),
        this.camera,
      );
    return caster.ray;
  }

  way(): THREE.Vector3 {
    return this.camera?.getWorldDirection(new THREE.Vector3()) ?? new THREE.Vector3(0, 0, -1);
  }
}

export const eye = new Eye();

export function EyeOf() {
  const { camera, size, invalidate } = useThree();
  const controls = useThree((state) => state.controls) as { target?: THREE.Vector3 } | null;
  useEffect(() => {
    eye.camera = camera;
    eye.redraw = () => invalidate();
    eye.width = size.width;
    eye.height = size.height;
    eye.drawn();
  }, [camera, size, invalidate]);
  // After the controls have moved the camera.
  useFrame(() => {
    if (controls?.target) eye.target.copy(controls.target);
    eye.drawn();
  });
  return null;
}
