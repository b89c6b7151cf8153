import { expect, it } from 'vitest';
import { boxOf, inBox } from '../../resources/ts/viewport/BoxSelect';
import { HIDDEN, NUMBERS } from '../../resources/ts/viewport/numbers';

it('chooses what is in the box, whichever way it was drawn; not what is hidden or behind', () => {
  // A metre is ten pixels; what is farther than 100 m is behind.
  const screen = ({ x, y, z }: { x: number; y: number; z: number }) =>
    z > 100 ? null : { x: 10 * x, y: 10 * y };
  const poses = new Float32Array(5 * NUMBERS);
  [
    [1, 1, 0, 0],
    [3, 2, 0, 0],
    [9, 9, 0, 0],
    [2, 2, 0, HIDDEN],
    [2, 2, 200, 0],
  ].forEach((numbers, k) => poses.set(numbers, NUMBERS * k));
  expect(boxOf(35, 5, 5, 25)).toEqual({ left: 5, top: 5, right: 35, bottom: 25 });
  expect(inBox(poses, boxOf(35, 5, 5, 25), screen)).toEqual([0, 1]);
  expect(inBox(poses, boxOf(0, 0, 200, 200), screen)).toEqual([0, 1, 2]);
  expect(inBox(poses, boxOf(50, 50, 60, 60), screen)).toEqual([]);
});
