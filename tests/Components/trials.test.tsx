import { waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { fieldAt } from '../../resources/ts/api/schema';
import type { ListedBake } from '../../resources/ts/api/types';
import { Field } from '../../resources/ts/fields/Field';
import { canTry, suggested, typed } from '../../resources/ts/fields/trying';
import { Trials } from '../../resources/ts/stages/Trials';
import { useView } from '../../resources/ts/state/view';
import { grid, panesOf } from '../../resources/ts/viewport/panes';
import { documentOf, show } from './harness';

const SEED = ['props', 0, 'break', 'cellular', 'seed'];
const PIECES = ['props', 0, 'break', 'cellular', 'pieces'];

function server(bakes: Partial<ListedBake>[], answer: () => Response = () => Response.json({ bakes: [] })) {
  return vi
    .spyOn(globalThis, 'fetch')
    .mockImplementation((url, init) =>
      Promise.resolve(
        init?.method === 'POST' && (url as string).endsWith('trials') ? answer() : Response.json({ bakes }),
      ),
    );
}

describe('the values that are tried', () => {
  afterEach(() => useView.getState().set({ trying: null, beside: [], stage: 'prop' }));

  it('begin with the one it has', () => {
    expect(suggested(fieldAt(SEED), 7, 'seed')).toEqual([7, 8, 9, 10]);
    expect(suggested(fieldAt(PIECES), 60, 'pieces')).toEqual([30, 60, 90, 120]);
    expect(suggested({ ...fieldAt(PIECES), maximum: 100 }, 60, 'pieces')).toEqual([30, 60, 90, 100]);
    expect(suggested({ title: '', description: '', type: 'number', minimum: 0 }, 0, 'bounce')).toEqual([
      0, 1, 2, 4,
    ]);
  });

  it('are read with commas, decimal commas and units', () => {
    expect(typed('7, 8,9', undefined)).toEqual([7, 8, 9]);
    expect(typed('0,5; 1,5', undefined)).toEqual([0.5, 1.5]);
    expect(typed('1 2 3', undefined)).toEqual([1, 2, 3]);
    expect(typed('5 mm, 2 cm, 1', 'm')).toEqual([0.005, 0.02, 1]);
    expect(typed('5 mm', 'm')).toEqual([0.005]);
    expect(typed('5, x', undefined)).toBeNull();
    expect(typed(' ', undefined)).toEqual([]);
  });

  it('are those of numbers that stay one', () => {
    expect(canTry(SEED, 3)).toBe(true);
    expect(canTry(['props', 0, 'position', 'x'], { keys: [] })).toBe(false);
    expect(canTry(['props', 0, 'name'], 'Jar')).toBe(false);
    expect(canTry(['lights', 'sun'], 2)).toBe(false);
    expect(canTry(['camera', 'lens'], 35)).toBe(false);
    expect(canTry(['frames'], 48)).toBe(true);
  });

  it('are asked for where one is at the setting', async () => {
    const { getByLabelText, getByRole, user } = show(<Field path={SEED} />, documentOf());
    await user.click(getByLabelText('Seed'));
    await user.click(getByRole('button', { name: 'Try several values' }));
    expect(useView.getState()).toMatchObject({ trying: SEED, stage: 'bake' });
  });

  it('are asked for of one of three numbers', async () => {
    const { getByLabelText, getByRole, user } = show(<Field path={['props', 0, 'position']} />, documentOf());
    await user.click(getByLabelText('Place y in m'));
    await user.click(getByRole('button', { name: 'Try several values of y' }));
    expect(useView.getState().trying).toEqual(['props', 0, 'position', 'y']);
  });

  it('are baked; what the server refuses is said', async () => {
    useView.getState().set({ trying: PIECES, stage: 'bake' });
    const refused = () =>
      Response.json({ title: 'No', detail: 'Pieces 9999999 cannot be baked' }, { status: 422 });
    const spy = server([], refused);
    const { getByLabelText, getByRole, findByText, user } = show(<Trials />, documentOf());
    const input = getByLabelText('A: Pieces');
    await user.clear(input);
    await user.type(input, '1, 2, 3, 4, 5, 6, 7, 8, 9');
    await findByText('8 at once at the most.');
    expect(getByRole('button', { name: 'Bake 9 trials' })).toHaveProperty('disabled', true);
    await user.clear(input);
    await user.type(input, '5, 9999999{Enter}');
    await findByText('Pieces 9999999 cannot be baked');
    expect(useView.getState().trying).toEqual(PIECES);
    const sent = spy.mock.calls.find(([, init]) => init?.method === 'POST');
    expect(JSON.parse(sent?.[1]?.body as string)).toEqual({
      pointer: '/props/0/break/cellular/pieces',
      values: [5, 9999999],
    });
  });

  it('are listed as far as they are, and taken out', async () => {
    const base = { aside: true, pinned: false, frames: 96, made: null, error: null, summary: '', bytes: 0 };
    const spy = server([
      { ...base, id: '3', status: 'done', done: 96, trial: 'Seed 9', revision: 4 },
      { ...base, id: '2', status: 'running', done: 40, trial: 'Seed 8', revision: 3 },
      { ...base, id: '1', status: 'failed', done: 12, trial: 'Seed 7', revision: 2, error: 'It ran away.' },
      { ...base, id: '0', status: 'done', done: 96, trial: null, revision: 1, aside: false },
    ]);
    const { findByText, getByTestId, getByRole, user } = show(<Trials />, documentOf());
    await findByText('40 of 96 frames');
    expect([...getByTestId('trials').children].map((line) => line.textContent)).toEqual([
      'Seed 7stopped after frame 12It ran away.',
      'Seed 840 of 96 frames',
      expect.stringContaining('Seed 9') as string,
    ]);
    await user.click(getByRole('button', { name: 'Stop and take out' }));
    await waitFor(() =>
      expect(
        spy.mock.calls.some(([url, init]) => init?.method === 'DELETE' && url === '/api/shots/shot/trials'),
      ).toBe(true),
    );
  });
});

describe('what is compared', () => {
  afterEach(() => useView.getState().set({ stage: 'prop' }));

  it('fills the picture without gaps', () => {
    expect(panesOf(2, true, 0.3).map(({ left, width, cut }) => [left, width, cut])).toEqual([
      [0, 0.3, true],
      [0.3, 0.7, true],
    ]);
    for (let count = 2; count <= 9; count++) {
      const panes = panesOf(count, false, 0.5);
      expect(panes).toHaveLength(count);
      const corners = new Set(panes.map(({ left, top }) => `${left} ${top}`));
      expect(corners.size).toBe(count);
      expect(
        panes.every(({ left, top, width, height }) => left + width < 1.001 && top + height < 1.001),
      ).toBe(true);
      const [columns, rows] = grid(count);
      expect(columns - rows).toBeLessThanOrEqual(1);
      expect(panes.reduce((sum, { width, height }) => sum + width * height, 0)).toBeCloseTo(
        count / (columns * rows),
      );
    }
  });
});
