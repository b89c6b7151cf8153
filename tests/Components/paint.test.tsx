import { describe, expect, it } from 'vitest';
import { PaintField } from '../../resources/ts/fields/PaintField';
import { fieldAt, standard } from '../../resources/ts/api/schema';
import { brushFor, packed, Trail, turned, useBrush, type Point } from '../../resources/ts/state/brush';
import { read, write } from '../../resources/ts/state/document';
import { notches } from '../../resources/ts/ui/pointer';
import { show, withProp } from './harness';

const PATH = ['props', 0, 'weight', 'stack', 0, 'brush', 'strokes'];

function open(strokes: object[]) {
  const brush = { ...(standard(['props', 0, 'weight', 'stack', 0, 'brush']) as object), strokes };
  const start = withProp(['weight', 'stack'], [{ source: 'brush', brush }]);
  const seen = { value: strokes };
  const shown = show(
    <PaintField
      id="strokes"
      path={PATH}
      field={fieldAt(PATH)}
      value={read(start, PATH)}
      onChange={(next) => {
        seen.value = next as object[];
      }}
    />,
    write(start, PATH, strokes),
  );
  return { ...shown, strokes: () => seen.value };
}

describe('painting', () => {
  it('begins with a brush that fits the prop and ends with another press', async () => {
    const { user, getByRole, queryByLabelText } = open([]);
    expect(queryByLabelText('Brush size')).toBeNull();
    await user.click(getByRole('button', { name: 'Paint' }));
    expect(useBrush.getState()).toMatchObject({ painting: PATH, brush: { mode: 'add', radius: 0.1 } });
    await user.click(getByRole('button', { name: 'Painting' }));
    expect(useBrush.getState().painting).toBeNull();
    expect(brushFor(PATH, 2.4)).toMatchObject({ radius: 0.2, softness: 0.5, strength: 1, mirror: 'none' });
  });

  it('sets the brush, within what the schema allows, and leaves the strokes alone', async () => {
    const stroke = { mode: 'add', points: packed([[0, 0, 0]]) };
    const { user, getByRole, getByLabelText, strokes } = open([stroke]);
    await user.click(getByRole('button', { name: 'Paint' }));
    for (const [typed, radius] of [
      ['25 cm', 0.25],
      ['5000', 1000],
    ] as const) {
      const size = getByLabelText('Brush size');
      await user.clear(size);
      await user.type(size, `${typed}{Enter}`);
      expect(useBrush.getState().brush?.radius).toBe(radius);
    }
    expect(strokes()).toEqual([stroke]);
  });

  it('takes back the last stroke, or all', async () => {
    const all = [
      { mode: 'add', points: packed([[0, 0, 0]]) },
      { mode: 'remove', points: packed([[1, 0, 0]]) },
    ];
    const { user, getByRole, getByText, strokes } = open(all);
    getByText('2 strokes');
    await user.click(getByRole('button', { name: 'Take back the last' }));
    expect(strokes()).toEqual(all.slice(0, 1));
    await user.click(getByRole('button', { name: 'Remove all' }));
    expect(strokes()).toEqual([]);
  });

  it('puts the brush down when one goes elsewhere', async () => {
    const { user, getByRole, unmount } = open([]);
    await user.click(getByRole('button', { name: 'Paint' }));
    unmount();
    expect(useBrush.getState().painting).toBeNull();
  });

  it('fits a brush that was chosen for another prop, and keeps all else of it', () => {
    const before = { mode: 'remove', radius: 4, softness: 0.2, strength: 0.7, mirror: 'x' };
    expect(brushFor(PATH, 0.12, before)).toEqual({ ...before, radius: 0.01 });
    expect(brushFor(PATH, 0, before)).toEqual(before);
  });

  it('keeps points as 32-bit floats in Base64', () => {
    // 1.0 is 0x3f800000, -2.0 is 0xc0000000, 0.5 is 0x3f000000 (IEEE 754), low byte first.
    expect(atob(packed([[1, -2, 0.5]]))).toBe('\0\0\x80\x3f\0\0\0\xc0\0\0\0\x3f');
    expect(
      packed([
        [0, 0, 0],
        [0, 0, 0],
      ]),
    ).toHaveLength(32);
  });

  it('leaves out points that are too near, and makes a very long stroke coarser', () => {
    const trail = new Trail(0.4, 8);
    const at = (x: number): Point => [x, 0, 0];
    expect(trail.add(at(0))).toBe(true);
    expect(trail.add(at(0.09))).toBe(false);
    for (let k = 1; k <= 8; k++) expect(trail.add(at(0.11 * k))).toBe(true);
    expect(trail.points.map(([x]) => Math.round(x * 100))).toEqual([0, 22, 44, 66, 88]);
    expect(trail.add(at(1))).toBe(false);
    expect(trail.add(at(1.09))).toBe(true);
  });

  it('goes by how far a wheel was turned', () => {
    expect(notches(100, 0)).toBe(1);
    expect(notches(-4, 0)).toBeCloseTo(-0.04, 12);
    expect(notches(3, 1)).toBe(1);
    expect(notches(5000, 0)).toBe(3);
  });

  it('does the other way while Alt is held', () => {
    expect(['add', 'remove', 'soften'].map((mode) => turned(mode, true))).toEqual(['remove', 'add', 'add']);
    expect(turned('soften', false)).toBe('soften');
  });
});
