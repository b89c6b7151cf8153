import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import * as THREE from 'three';
import type { ShotDocument } from '../api/types';
import { eye } from '../handles/eye';
import { putVector, type Scene } from '../handles/things';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import { clock } from '../state/frame';
import { numberBetween, type Numbers } from '../state/numbers';
import { useView } from '../state/view';
import { placingOf, type Stand } from './placing';

/** Width of the picture that focal lengths are told for, mm. */
const WIDTH = 36;

/** Share of the view that the camera's picture takes at most; what is around it is seen too, but dimmed. */
const GATE = 0.92;

export function aspectOf(document: ShotDocument): number {
  const [width = 16, height = 1] = document.camera.aspect.split(':').map(Number);
  return width / height;
}

/** A part of a picture or of the page, in pixels from its upper left corner. */
export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where in the view the camera's picture is. */
export function gateOf(document: ShotDocument, view: { width: number; height: number }): Rect {
  const aspect = aspectOf(document);
  const width = Math.min(GATE * view.width, GATE * view.height * aspect);
  const height = width / aspect;
  return { x: (view.width - width) / 2, y: (view.height - height) / 2, width, height };
}

/** A number of the camera, between frames too. */
function between(document: ShotDocument, numbers: Numbers, path: string[], frame: number): number {
  return numberBetween(numbers, document, ['camera', ...path], frame);
}

/** Half the height of the camera's picture at a distance of 1, at a frame. */
function halfHeight(document: ShotDocument, numbers: Numbers, frame: number): number {
  return WIDTH / (2 * between(document, numbers, ['lens'], frame) * aspectOf(document));
}

/** From the lower to the upper edge of the camera's picture at a frame, radians. */
export function heightAt(document: ShotDocument, numbers: Numbers, frame: number): number {
  return 2 * Math.atan(halfHeight(document, numbers, frame));
}

/** A way gone round so far, degrees. */
function round(way: THREE.Vector3, by: number): THREE.Vector3 {
  return way.applyAxisAngle(THREE.Object3D.DEFAULT_UP, THREE.MathUtils.degToRad(by));
}

function placeAt(document: ShotDocument, numbers: Numbers, name: string, frame: number): THREE.Vector3 {
  return new THREE.Vector3(
    ...(['x', 'y', 'z'].map((axis) => between(document, numbers, [name, axis], frame)) as [
      number,
      number,
      number,
    ]),
  );
}

/** What the camera of the shot looks at, at a frame. */
export function targetAt(document: ShotDocument, numbers: Numbers, frame: number): THREE.Vector3 {
  return placeAt(document, numbers, 'target', frame);
}

/** Where the camera of the shot stands and how it is turned at a frame. */
export function cameraPose(document: ShotDocument, numbers: Numbers, frame: number): Stand {
  const target = targetAt(document, numbers, frame);
  const position = round(
    placeAt(document, numbers, 'position', frame).sub(target),
    between(document, numbers, ['orbit'], frame),
  ).add(target);
  const way = target.sub(position);
  const roll = -THREE.MathUtils.degToRad(between(document, numbers, ['roll'], frame));
  const turn = new THREE.Quaternion().setFromEuler(
    new THREE.Euler(Math.atan2(way.y, Math.hypot(way.x, way.z)), Math.atan2(-way.x, -way.z), roll, 'YXZ'),
  );
  return { position, turn };
}

/** While one looks through the shot's camera, the view is where that is; afterwards it is where it was. */
export function ShotCamera() {
  const { handle, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const through = useView((view) => view.through) && document.camera.on;
  const camera = useThree((state) => state.camera) as THREE.PerspectiveCamera;
  const size = useThree((state) => state.size);
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    if (!through) return;
    const before = { position: camera.position.clone(), turn: camera.quaternion.clone(), fov: camera.fov };
    return () => {
      camera.position.copy(before.position);
      camera.quaternion.copy(before.turn);
      camera.fov = before.fov;
      camera.updateProjectionMatrix();
      invalidate();
    };
  }, [through, camera, invalidate]);
  useEffect(() => {
    if (!through) return;
    const gate = gateOf(document, size).height;
    const placing = placingOf(document.placing);
    return clock.follow((frame) => {
      const { position, turn } = placing.eye(cameraPose(document, numbers, frame));
      camera.position.copy(position);
      camera.quaternion.copy(turn);
      const half = (halfHeight(document, numbers, frame) * size.height) / gate;
      camera.fov = THREE.MathUtils.radToDeg(2 * Math.atan(half));
      camera.updateProjectionMatrix();
      invalidate();
    });
  }, [through, camera, document, numbers, size, invalidate]);
  return null;
}

/** The document with its camera on, standing so that it shows what one looks at now, as large. */
export function cameraHere(document: ShotDocument, scene: Scene): ShotDocument {
  const seen = eye.camera;
  if (!(seen instanceof THREE.PerspectiveCamera)) return document;
  const here = Math.tan(THREE.MathUtils.degToRad(seen.fov / 2));
  const placing = placingOf(document.placing);
  const target = placing.placed(eye.target);
  const away = placing
    .placed(seen.position)
    .sub(target)
    .multiplyScalar(here / halfHeight(document, scene.numbers, scene.frame));
  round(away, -between(document, scene.numbers, ['orbit'], scene.frame));
  const on = write(document, ['camera', 'on'], true);
  const aimed = putVector(on, scene, ['camera', 'target'], target);
  return putVector(aimed, scene, ['camera', 'position'], away.add(target));
}

/** The edge of the camera's picture; what is beyond it is dimmed. */
export function CameraGate() {
  const { document } = useContext(ShotContext).handle.shot;
  const aspect = aspectOf(document);
  return (
    <div
      className="pointer-events-none absolute inset-0 grid place-items-center overflow-hidden"
      style={{ containerType: 'size' }}
      data-testid="gate"
    >
      <div
        className="border border-ink/60"
        style={{
          aspectRatio: aspect,
          width: `min(${100 * GATE}cqw, ${100 * GATE * aspect}cqh)`,
          boxShadow: '0 0 0 4000px color-mix(in srgb, var(--well) 72%, transparent)',
        }}
      />
    </div>
  );
}
