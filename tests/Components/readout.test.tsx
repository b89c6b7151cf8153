import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ReadoutRow } from '../../resources/ts/api/types';
import { Readout } from '../../resources/ts/readout/Readout';
import { clock } from '../../resources/ts/state/frame';
import { useView } from '../../resources/ts/state/view';
import { stirring } from '../../resources/ts/viewport/stirring';
import { documentOf, show, withProp } from './harness';
import { grouped } from '../../resources/ts/readout/units';

vi.mock('../../resources/ts/readout/Plot', () => ({
  Plot: ({
    title,
    unit,
    values,
    others,
    action,
  }: {
    action?: ReactNode;
    title: string;
    unit: string;
    values: number[];
    others?: number[][];
  }) => (
    <div>
      <p>{`${title} ${unit} ${[values, ...(others ?? [])].map((line) => line.join(' ')).join(' | ')}`}</p>
      {action}
    </div>
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

describe('what is compared', () => {
  afterEach(() => useView.getState().set({ stage: 'prop' }));

  it('is told in numbers and in words', () => {
    useView.getState().set({ stage: 'bake' });
    const rows = (end: number): ReadoutRow[] => [
      [1, 0, 1, 0],
      [2, end, 0, 0],
    ];
    const bake = (id: string, revision: number) => ({ id, revision, trial: null });
    const beside = [{ bake: bake('old', 3), rows: rows(4), differences: ['A: seed 7 to 8'] }];
    const more = { rows: rows(9), bake: bake('new', 5), beside };
    const { getByTestId, getByText, getAllByText, unmount } = show(
      <Readout />,
      documentOf(),
      undefined,
      more as object,
    );
    expect(getByTestId('comparison').textContent).toContain('From revision 3 to revision 5A: seed 7 to 8');
    getByText('Let go pieces 0 9 | 0 4');
    expect(getAllByText('2 (2)')).toHaveLength(2);
    unmount();
    const two = { ...more, beside: [...beside, { ...beside[0], bake: bake('older', 1), rows: rows(6) }] };
    const both = show(<Readout />, documentOf(), undefined, two as object);
    expect(both.queryByTestId('comparison')).toBeNull();
    both.getByText('Let go pieces 0 9 | 0 4 | 0 6');
  });
});

describe('what still moves', () => {
  beforeEach(() => useView.getState().set({ stage: 'bake', frame: 1, stirring: false }));
  afterEach(() => useView.getState().set({ stage: 'prop', frame: 1, stirring: false }));

  it('is gone to and dotted by a press', async () => {
    const { getByText, user } = show(<Readout />, documentOf(), undefined, { rows: ROWS });
    await user.click(getByText('not yet, 1 still moves'));
    expect(clock.now).toBe(3);
    expect(useView.getState().stirring).toBe(true);
    const dots = getByText('dots');
    expect(dots.getAttribute('aria-pressed')).toBe('true');
    await user.click(dots);
    expect(useView.getState().stirring).toBe(false);
  });

  it('is nothing where all rests', () => {
    const rows: ReadoutRow[] = [
      [1, 0, 1, 0],
      [2, 1, 0, 0],
    ];
    const { queryByText } = show(<Readout />, documentOf(), undefined, { rows });
    expect(queryByText(/not yet/)).toBeNull();
  });

  /** Three pieces (one held, one slow) and two vertices, at two frames. */
  const values: Record<string, number[][]> = {
    'hard pose': [
      [0, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 0, 1, 2, 0, 0, 0, 0, 0, 1],
      [0, 1, 0, 0, 0, 0, 1, 1, 1, 0, 0, 0, 0, 1, 2, 0.001, 0, 0, 0, 0, 1],
    ],
    'hard flags': [
      [1, 0, 1],
      [1, 0, 1],
    ],
    'light pose': [
      [0, 0, 0, 0, 0, 0, 1],
      [9, 0, 0, 0, 0, 0, 1],
    ],
    'light flags': [[1], [1]],
    'light life': [[1], [0]],
    'cloth vertices': [
      [5, 0, 0, 6, 0, 0],
      [5, 0, 0, 6, 0, 0.5],
    ],
  };
  const frames = (have: number) => ({
    manifest: {
      tracks: Object.keys(values).map((name) => {
        const [prop = '', kind = ''] = name.split(' ');
        return { prop, kind, count: 1 };
      }),
    },
    have: 2,
    at: (frame: number, prop: string, kind: string) => {
      const own = frame <= have ? values[`${prop} ${kind}`]?.[frame - 1] : undefined;
      return own && Float32Array.from(own);
    },
  });

  it('is what has let go and is there, and vertices, by more than a length', () => {
    const dotted = (have: number, frame: number) =>
      stirring(frames(have) as unknown as Parameters<typeof stirring>[0], frame, 0.01);
    expect([...(dotted(2, 2) ?? [])]).toEqual([0, 1, 0, 6, 0, 0.5]);
    expect(dotted(2, 1)).toEqual(new Float32Array());
    expect(dotted(1, 2)).toBeNull();
  });
});

describe('a number in a readout', () => {
  it.each([
    [21602, '21,602'],
    [999, '999'],
    [18.96, '18.96'],
    [0.00012, '0.00012'],
    [1234567.5, '1,234,567.5'],
  ])('%d is %s', (value, words) => {
    expect(grouped(value)).toBe(words);
  });
});
