import { waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { BakeState, ListedBake } from '../../resources/ts/api/types';
import { Bakes, madeText } from '../../resources/ts/stages/Bakes';
import { RoomPage } from '../../resources/ts/yard/RoomPage';
import { documentOf, show } from './harness';

const bake = (id: string, more: Partial<ListedBake> = {}): ListedBake => ({
  id,
  status: 'done',
  error: null,
  trial: null,
  aside: false,
  pinned: false,
  frames: 96,
  done: 96,
  revision: 1,
  summary: 'Block: friction 0.6 to 0.7',
  made: '2026-11-26T12:00:00Z',
  bytes: 3_100_000,
  ...more,
});

/** A server that answers by the end of the address, and what it was asked. */
function server(answers: Record<string, object>) {
  return vi.spyOn(globalThis, 'fetch').mockImplementation((url) => {
    const found = Object.keys(answers).find((end) => (url as string).endsWith(end)) ?? '';
    return Promise.resolve(
      new Response(JSON.stringify(answers[found] ?? {}), { headers: { 'Content-Type': 'application/json' } }),
    );
  });
}

const asked = (spy: ReturnType<typeof server>) =>
  spy.mock.calls.map(([url, init]) => `${init?.method ?? 'GET'} ${url as string}`);

describe('the bakes of a shot', () => {
  it('says which is shown; others are shown, gone back to and kept', async () => {
    const spy = server({
      'shots/shot/bakes': {
        bakes: [bake('new'), bake('old', { revision: 7, pinned: true }), bake('cut', { status: 'failed' })],
      },
    });
    const showBake = vi.fn(() => Promise.resolve());
    const { user, findByTestId } = show(<Bakes />, documentOf(), undefined, {
      bake: { id: 'new', status: 'done' } as BakeState,
      showBake,
    });
    const items = within(await findByTestId('bakes')).getAllByRole('listitem');
    expect(items).toHaveLength(2);
    const [shown, older] = items as [HTMLElement, HTMLElement];
    expect(within(shown).getByText('is shown')).toBeTruthy();
    // It shows the very revision that the shot stands at.
    expect(within(shown).queryByRole('button', { name: 'Go back to it' })).toBeNull();
    await user.click(within(older).getByRole('button', { name: 'Show' }));
    expect(showBake).toHaveBeenCalledWith('old');
    await user.click(within(older).getByRole('button', { name: 'Keep it no longer' }));
    await waitFor(() => expect(asked(spy)).toContain('PATCH /api/bakes/old'));
    expect(spy.mock.calls.find(([url]) => (url as string).endsWith('bakes/old'))?.[1]?.body).toBe(
      '{"pinned":false}',
    );
  });

  it('says the time of today, and the day of other days', () => {
    const now = new Date('2026-11-26T15:00:00Z');
    expect(madeText('2026-11-26T14:00:00Z', now)).not.toContain('26');
    expect(madeText('2026-11-20T14:00:00Z', now)).toContain('20');
    expect(madeText(null)).toBe('');
  });
});

describe('what takes room', () => {
  it('is listed, and what can go is taken out; what is pinned or under way is not', async () => {
    const spy = server({
      '/store': {
        parts: { bakes: 6_200_000, stages: 41_000_000, checkpoints: 9_000_000 },
        free: 83e9,
        limits: { computed: 4e9, bakes: 5 },
        shots: [
          {
            id: 's',
            name: 'Jar',
            deleted: false,
            bakes: [
              bake('a'),
              bake('b', { pinned: true, revision: 2 }),
              bake('c', { status: 'running', revision: 3 }),
            ],
          },
        ],
      },
      'store/empty': { freed: 50_000_000 },
      'bakes/a': { freed: 3_100_000 },
    });
    const { user, findByText, getByRole } = show(<RoomPage />, documentOf());
    await findByText('41.0 MB');
    await user.click(getByRole('button', { name: 'Take out what can be computed again (50.0 MB)' }));
    await waitFor(() => expect(asked(spy)).toContain('POST /api/store/empty'));
    await user.click(getByRole('button', { name: 'Remove the bake of revision 1' }));
    await waitFor(() => expect(asked(spy)).toContain('DELETE /api/bakes/a'));
    for (const name of ['Take the pin off first', 'Cancel the bake of revision 3 first'])
      expect((getByRole('button', { name }) as HTMLButtonElement).disabled).toBe(true);
  });
});
