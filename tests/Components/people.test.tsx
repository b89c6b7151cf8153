import { waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { request } from '../../resources/ts/api/client';
import type { ShotCard } from '../../resources/ts/api/types';
import { Yard } from '../../resources/ts/yard/Yard';
import { documentOf, show } from './harness';

const card = (id: string, owner: string | null, more: Partial<ShotCard> = {}): ShotCard => ({
  id,
  name: id,
  updated: null,
  revision: 3,
  props: ['Jar'],
  frames: 96,
  fps: 24,
  picture: null,
  owner,
  mine: true,
  people: [],
  ...more,
});

function server(me: object, shots: ShotCard[]) {
  return vi.spyOn(globalThis, 'fetch').mockImplementation((url) =>
    Promise.resolve(
      new Response(JSON.stringify((url as string).endsWith('/me') ? me : { shots }), {
        headers: { 'Content-Type': 'application/json' },
      }),
    ),
  );
}

describe('the yard where people sign in', () => {
  it('says whose a shot is, and shares one’s own', async () => {
    const spy = server({ name: 'Ada', people: ['Ada', 'Bo', 'Cy'] }, [
      card('Own', 'Ada', { people: ['Cy'] }),
      card('Lent', 'Bo', { mine: false }),
      card('Old', null),
    ]);
    const { user, findByText, findByRole, getByRole, queryByRole } = show(<Yard />, documentOf());
    await findByText('shared with Cy');
    await findByText('Bo shares it');
    await findByText('everybody’s');
    // One that is lent can be copied and changed, not deleted or shared.
    expect(queryByRole('button', { name: 'Delete Lent' })).toBeNull();
    expect(queryByRole('button', { name: 'Share Lent' })).toBeNull();
    expect(queryByRole('button', { name: 'Share Old' })).toBeNull();
    await user.click(getByRole('button', { name: 'Share Own' }));
    const dialog = within(await findByRole('dialog'));
    expect(dialog.queryByRole('checkbox', { name: 'Ada' })).toBeNull();
    await user.click(dialog.getByRole('checkbox', { name: 'Cy' }));
    await user.click(dialog.getByRole('checkbox', { name: 'Bo' }));
    await user.click(dialog.getByRole('button', { name: 'Share' }));
    await waitFor(() =>
      expect(spy.mock.calls.find(([url]) => (url as string).endsWith('shots/Own/people'))?.[1]?.body).toBe(
        '{"people":["Bo"]}',
      ),
    );
  });

  it('says nothing of people where nobody signs in', async () => {
    server({ name: null, people: [] }, [card('Own', null)]);
    const { findByText, queryByRole, queryByText } = show(<Yard />, documentOf());
    await findByText('revision 3');
    expect(queryByText('everybody’s')).toBeNull();
    expect(queryByRole('button', { name: 'Sign out' })).toBeNull();
  });

  it('goes to the door when the session has ended, and sends what only our pages can read', async () => {
    document.cookie = 'XSRF-TOKEN=a%3Db';
    const leave = vi.spyOn(window.location, 'assign').mockImplementation(() => undefined);
    const spy = vi
      .spyOn(globalThis, 'fetch')
      .mockImplementation(() =>
        Promise.resolve(
          new Response('{"title":"Sign in first","detail":"You are not signed in."}', { status: 401 }),
        ),
      );
    await expect(request('shots', { method: 'POST' })).rejects.toThrow('You are not signed in.');
    expect(leave).toHaveBeenCalledWith(expect.stringMatching(/^\/sign-in\?to=/));
    expect(spy.mock.calls[0]?.[1]?.headers).toMatchObject({ 'X-XSRF-TOKEN': 'a=b' });
    document.cookie = 'XSRF-TOKEN=; expires=Thu, 01 Jan 1970 00:00:00 GMT';
  });
});
