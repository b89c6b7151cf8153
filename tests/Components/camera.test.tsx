import { screen } from '@testing-library/react';
import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { eye } from '../../resources/ts/handles/eye';
import { CameraCard } from '../../resources/ts/stages/CameraCard';
import { useView } from '../../resources/ts/state/view';
import { placingOf } from '../../resources/ts/viewport/placing';
import { aspectOf, cameraHere, cameraPose, heightAt } from '../../resources/ts/viewport/ShotCamera';
import { documentOf, show } from './harness';

const camera = (more: object) =>
  documentOf({
    camera: { on: true, position: { x: 3, y: 1, z: 4 }, target: { x: 0.2, y: 0.4, z: 0.1 }, ...more },
  });

/** Where a place is in the picture of a camera that stands like this, -1 to 1. */
function seen({ position, turn }: ReturnType<typeof cameraPose>, place: [number, number, number]) {
  const real = new THREE.PerspectiveCamera(40, 1);
  real.position.copy(position);
  real.quaternion.copy(turn);
  real.updateMatrixWorld();
  return new THREE.Vector3(...place).project(real);
}

describe('the camera of the shot', () => {
  it('looks at its target, upright', () => {
    const pose = cameraPose(camera({}), {}, 1);
    const middle = seen(pose, [0.2, 0.4, 0.1]);
    expect([middle.x, middle.y].map((value) => Math.abs(value) < 1e-6)).toEqual([true, true]);
    const above = seen(pose, [0.2, 0.6, 0.1]);
    expect(above.x).toBeCloseTo(0);
    expect(above.y).toBeGreaterThan(0);
    // As three's own camera would be turned.
    const real = new THREE.PerspectiveCamera();
    real.position.set(3, 1, 4);
    real.lookAt(0.2, 0.4, 0.1);
    expect(Math.abs(real.quaternion.dot(pose.turn))).toBeCloseTo(1, 6);
    expect(Math.abs(cameraPose(camera({ roll: 90 }), {}, 1).turn.dot(pose.turn))).toBeCloseTo(Math.SQRT1_2);
  });

  it('goes round what it looks at, and is put where one looks from all the same', () => {
    const target = { x: 1, y: 0.5, z: 2 };
    const round = (orbit: number) => camera({ position: { x: 1, y: 0.9, z: 4 }, target, orbit });
    const quarter = cameraPose(round(90), {}, 1);
    expect(quarter.position.toArray().map((value) => Number(value.toFixed(9)))).toEqual([3, 0.9, 2]);
    expect(Math.abs(seen(quarter, [1, 0.5, 2]).x)).toBeLessThan(1e-9);
    const free = new THREE.PerspectiveCamera(35, 1.6);
    free.position.set(0, 1, 5);
    eye.camera = free;
    eye.target.set(0.4, 0.5, 0);
    const document = round(70);
    const put = cameraHere(document, { document, numbers: {}, tracks: {}, frame: 1 });
    const way = cameraPose(put, {}, 1).position.sub(eye.target);
    expect(way.angleTo(free.position.clone().sub(eye.target))).toBeLessThan(1e-3);
  });

  it('becomes a turntable that closes with the shot', async () => {
    const { user, seen: shot } = show(<CameraCard />, camera({ orbit: 20 }));
    await user.click(screen.getByRole('button', { name: 'Turntable' }));
    expect(shot.document.camera.orbit).toEqual({
      keys: [
        { frame: 1, value: 20, ease: 'linear' },
        { frame: 49, value: 380, ease: 'linear' },
      ],
    });
    expect(screen.queryByRole('button', { name: 'Turntable' })).toBeNull();
  });

  it('goes by its keys, between frames too', () => {
    const keys = [
      { frame: 1, value: 0, ease: 'linear' },
      { frame: 3, value: 4 },
    ];
    const document = camera({ position: { x: { keys }, y: 1, z: 4 } });
    const numbers = { '/camera/position/x': [0, 2, 4] };
    expect(cameraPose(document, numbers, 2).position.x).toBe(2);
    expect(cameraPose(document, numbers, 2.5).position.x).toBe(3);
  });

  it('zooms by the keys of its lens', () => {
    const keys = [
      { frame: 1, value: 24, ease: 'linear' },
      { frame: 3, value: 48 },
    ];
    const document = camera({ lens: { keys } });
    const numbers = { '/camera/lens': [24, 36, 48] };
    const half = (frame: number) => Math.tan(heightAt(document, numbers, frame) / 2);
    expect(half(1) / half(3)).toBeCloseTo(2);
    expect(half(1) / half(2.5)).toBeCloseTo(42 / 24);
  });

  it('is put where one looks from, so that it sees as much', () => {
    const free = new THREE.PerspectiveCamera(35, 1.6);
    free.position.set(0, 0.5, 3);
    eye.camera = free;
    eye.target.set(0, 0.5, 0);
    const document = documentOf({});
    const placed = cameraHere(document, { document, numbers: {}, tracks: {}, frame: 1 });
    expect(placed.camera).toMatchObject({ on: true, target: { x: 0, y: 0.5, z: 0 } });
    // Half as high as the free view's picture, at the target: the same in both.
    const half = 36 / (2 * Number(placed.camera.lens) * aspectOf(placed));
    expect((placed.camera.position.z as number) * half).toBeCloseTo(3 * Math.tan((17.5 * Math.PI) / 180), 3);
    expect(document.camera.on).toBe(false);
  });

  it('sees the result where that is placed, and is put there', () => {
    const document = camera({});
    document.placing = {
      on: true,
      position: { x: 2, y: 1, z: -1 },
      rotation: { x: 90, y: 20, z: 0 },
      scale: 1.5,
    };
    const placing = placingOf(document.placing);
    // Lying, it had its head at -z; stood up, that is above.
    expect(placing.placed(new THREE.Vector3(0, 0, -1)).y).toBeCloseTo(2.5);
    const inner = new THREE.Vector3(0.3, -0.2, 0.5);
    expect(placing.computed(placing.placed(inner)).distanceTo(inner)).toBeLessThan(1e-9);
    const pose = cameraPose(document, {}, 1);
    const there = seen(pose, placing.placed(inner).toArray());
    const here = seen(placing.eye(pose), inner.toArray());
    expect([here.x, here.y]).toEqual([expect.closeTo(there.x, 5), expect.closeTo(there.y, 5)]);

    const free = new THREE.PerspectiveCamera(35, 1.6);
    free.position.set(0, 4, 0.2);
    eye.camera = free;
    eye.target.set(0, 0.5, 0);
    const put = cameraHere(document, { document, numbers: {}, tracks: {}, frame: 1 });
    const middle = seen(placing.eye(cameraPose(put, {}, 1)), [0, 0.5, 0]);
    expect([middle.x, middle.y]).toEqual([expect.closeTo(0, 3), expect.closeTo(0, 3)]);
    expect(placingOf(documentOf({}).placing).up.y).toBe(1);
  });

  it('shows its settings once it is there, and is looked through', async () => {
    const { user, getByRole, queryByText, getByLabelText } = show(<CameraCard />, documentOf({}));
    expect(queryByText('Look through it')).toBeNull();
    await user.click(getByRole('switch', { name: 'Shot camera' }));
    getByLabelText('Focal length');
    await user.click(getByRole('button', { name: 'Look through it' }));
    expect(useView.getState().through).toBe(true);
    expect((getByRole('button', { name: 'Put it here' }) as HTMLButtonElement).disabled).toBe(true);
  });
});
