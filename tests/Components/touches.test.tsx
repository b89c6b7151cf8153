import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ReadoutRow } from '../../resources/ts/api/types';
import { Readout } from '../../resources/ts/readout/Readout';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show, withProp } from './harness';

vi.mock('../../resources/ts/readout/Plot', () => ({
  Plot: ({ title, unit, values }: { title: string; unit: string; values: number[] }) => (
    <p>{`${title} ${unit} ${values.join(' ')}`}</p>
  ),
}));

const ROWS: ReadoutRow[] = [
  [1, 0, 1, 0, 0, 0],
  [2, 0, 1, 0, 3.25, 12],
  [3, 0, 1, 0, 1, 41],
];

describe('how hard something was struck', () => {
  beforeEach(() => useView.getState().set({ stage: 'bake' }));
  afterEach(() => useView.getState().set({ stage: 'prop' }));

  it('is told as a speed, and by its weight where that is asked for', () => {
    const { getByTestId, unmount } = show(<Readout />, documentOf(), undefined, { rows: ROWS });
    expect(getByTestId('touches').textContent).toBe('Fastest touch m/s 0 3.25 1Fastest touch3.25 m/s at 2');
    unmount();
    const weighed = withProp(['release'], {
      trigger: 'contact',
      contact: { speed: 1, impulse: 50, within: 0 },
    });
    expect(show(<Readout />, weighed, undefined, { rows: ROWS }).getByTestId('touches').textContent).toBe(
      'Hardest touch N s 0 12 41Fastest touch3.25 m/s at 2Hardest touch41 N s at 3',
    );
  });

  it('is not told where nothing waits for a touch, nor by bakes of before', () => {
    const rows: ReadoutRow[] = [
      [1, 0, 0, 0],
      [2, 1, 1, 0, 0, 0],
    ];
    expect(show(<Readout />, documentOf(), undefined, { rows }).queryByTestId('touches')).toBeNull();
  });
});
