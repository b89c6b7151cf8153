import { describe, expect, it } from 'vitest';
import { PaintField } from '../../resources/ts/fields/PaintField';
import { fieldAt, standard } from '../../resources/ts/api/schema';
import { brushFor, turned, useBrush } from '../../resources/ts/state/brush';
import { read, write } from '../../resources/ts/state/document';
import { show, withProp } from './harness';

const PATH = ['props', 0, 'weight', 'stack', 0, 'paint', 'strokes'];

function open(strokes: object[]) {
  const paint = { ...(standard(['props', 0, 'weight', 'stack', 0, 'paint']) as object), strokes };
  const start = withProp(['weight', 'stack'], [{ source: 'paint', paint }]);
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
    const stroke = { mode: 'add', points: [[0, 0, 0]] };
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
      { mode: 'add', points: [[0, 0, 0]] },
      { mode: 'remove', points: [[1, 0, 0]] },
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

  it('does the other way while Alt is held', () => {
    expect(['add', 'remove', 'soften'].map((mode) => turned(mode, true))).toEqual(['remove', 'add', 'add']);
    expect(turned('soften', false)).toBe('soften');
  });
});
