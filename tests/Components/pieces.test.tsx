import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import type { PropReadout } from '../../resources/ts/api/types';
import { PieceTable } from '../../resources/ts/readout/PieceTable';
import { both } from '../../resources/ts/state/document';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

const readout = {
  pieces: {
    count: 3,
    volumes: [3e-6, 1e-6, 2e-6],
    smallest: { index: 1, volume: 1e-6, mass: 0 },
    largest: { index: 0, volume: 3e-6, mass: 0 },
    mean: 2e-6,
    middles: [
      [0, 0, 0],
      [1, 0, 0],
      [2, 0, 0],
    ],
    sizes: [
      [0.1, 0.1, 0.1],
      [0.1, 0.1, 0.1],
      [0.1, 0.1, 0.1],
    ],
    scale: [1, 1, 1],
    touching: [[0, 1, 0.01]],
    joined: 0,
    discarded: 0,
    notes: [],
    core: false,
  },
} as unknown as PropReadout;

function open(pattern: string, density: number) {
  const prop = both(standard(['props', 0]), { id: 'a', name: 'A', break: { pattern } });
  const shown = show(<PieceTable density={density} prefix="piece" />, documentOf({ props: [prop] }), readout);
  useView.getState().set({ pieces: [], hidden: [] });
  return shown;
}

const rows = (container: HTMLElement) =>
  [...container.querySelectorAll('tbody tr')].map((row) =>
    [...row.querySelectorAll('td')].slice(0, 2).map((cell) => cell.textContent),
  );

describe('the table of pieces', () => {
  it('offers what can be done to a piece that was cut from a whole', async () => {
    const { user, getByRole, queryByRole } = open('cellular', 2000);
    await user.click(getByRole('button', { name: 'piece 1' }));
    for (const name of ['Join to neighbour', 'Lock', 'Hide', 'Break again']) getByRole('button', { name });
    expect(queryByRole('button', { name: 'Show all' })).toBeNull();
  });

  it.each(['flakes', 'faces', 'bits', 'parts', 'copies'])(
    'offers nothing that would do nothing to %s',
    async (pattern) => {
      const { user, getByRole, queryByRole } = open(pattern, 2000);
      await user.click(getByRole('button', { name: 'piece 1' }));
      getByRole('button', { name: 'Hide' });
      for (const name of ['Join to neighbour', 'Lock', 'Break again'])
        expect(queryByRole('button', { name })).toBeNull();
    },
  );

  it('shows masses, or volumes of what weighs nothing', () => {
    const heavy = open('cellular', 2000);
    expect(rows(heavy.container)).toEqual([
      ['2', '2.00 g'],
      ['3', '4.00 g'],
      ['1', '6.00 g'],
    ]);
    heavy.unmount();
    const light = open('flakes', 0);
    expect(rows(light.container)).toEqual([
      ['2', '1.00 cm³'],
      ['3', '2.00 cm³'],
      ['1', '3.00 cm³'],
    ]);
    expect(light.container.textContent).not.toContain('0 mg');
  });
});
