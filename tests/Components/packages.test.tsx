import { fireEvent, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { HandOffCard } from '../../resources/ts/stages/HandOffCard';
import { Yard } from '../../resources/ts/yard/Yard';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

const SHOT = {
  id: 's1',
  name: 'Jar off the sill',
  updated: null,
  revision: 1,
  props: ['Jar'],
  frames: 96,
  fps: 24,
  picture: null,
  owner: null,
  mine: true,
  people: [],
};

/** Answers as a server with one shot; a package is opened, or refused with a reason, and made once it may be. */
function server(refused: string | null = null, packed = Promise.resolve()) {
  const asked: [string, string][] = [];
  vi.spyOn(globalThis, 'fetch').mockImplementation((url, init) => {
    const path = (url as string).replace('/api/', '');
    asked.push([init?.method ?? 'GET', path]);
    const json = (body: object, status = 200) =>
      Promise.resolve(
        new Response(JSON.stringify(body), {
          status,
          headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
        }),
      );
    if (path === 'packages' && refused !== null)
      return json({ title: 'The package cannot be opened', detail: refused, status: 422 }, 422);
    if (path === 'packages') return json({ id: 's2' }, 201);
    if (path.endsWith('/package')) return packed.then(() => new Response(new Blob(['packed'])));
    return json(path === 'me' ? { name: null, people: [] } : { shots: [SHOT] });
  });
  return asked;
}

const BAKE = { id: 'b1', status: 'done', stale: false, frames: 48, pieces: 3, props: ['a'], revision: 1 };

const zip = (name = 'jar.zip') => new File(['x'], name, { type: 'application/zip' });

describe('a shot in a package', () => {
  afterEach(() => {
    vi.restoreAllMocks();
    useView.getState().set({ notices: [] });
  });

  it('is opened where it is dropped or chosen', async () => {
    const asked = server();
    const gone: unknown[] = [];
    vi.spyOn(window.history, 'pushState').mockImplementation((_, __, to) => void gone.push(to));
    const { findByRole, getByTestId, getByLabelText, user } = show(<Yard />, documentOf());
    await findByRole('button', { name: 'Open a package' });
    await user.upload(getByLabelText('A package of a shot'), zip());
    await waitFor(() => expect(gone).toEqual(['/shots/s2']));
    fireEvent.drop(getByTestId('drop-area'), { dataTransfer: { types: ['Files'], files: [zip('JAR.ZIP')] } });
    await waitFor(() => expect(gone).toHaveLength(2));
    expect(asked.filter(([method]) => method === 'POST')).toEqual([
      ['POST', 'packages'],
      ['POST', 'packages'],
    ]);
  });

  it('says why it cannot be opened, and takes no other files with it', async () => {
    const asked = server('There is no “shot.json” in it: it is no package of a shot.');
    const { findByRole, getByTestId, getByLabelText, user } = show(<Yard />, documentOf());
    await findByRole('button', { name: 'Open a package' });
    await user.upload(getByLabelText('A package of a shot'), zip());
    const said = () => JSON.stringify(useView.getState().notices);
    await waitFor(() => expect(said()).toContain('There is no “shot.json”'));
    fireEvent.drop(getByTestId('drop-area'), {
      dataTransfer: { types: ['Files'], files: [zip(), new File(['x'], 'mill.glb')] },
    });
    await waitFor(() => expect(said()).toContain('bring it in without other files'));
    expect(asked.filter(([method]) => method === 'POST')).toHaveLength(1);
  });

  it('is given out under the name of the shot, and says so until it is there', async () => {
    let packed = () => {};
    server(null, new Promise((done) => (packed = done)));
    let called = '';
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      called = this.download;
    });
    const { findByRole, findByText, queryByText, user } = show(<Yard />, documentOf());
    const button = await findByRole('button', { name: 'Package Jar off the sill for another machine' });
    await user.click(button);
    await findByText('Packing');
    expect(button.hasAttribute('disabled')).toBe(true);
    expect(called).toBe('');
    packed();
    await waitFor(() => expect(called).toBe('Jar-off-the-sill.zip'));
    await waitFor(() => expect(queryByText('Packing')).toBeNull());
    expect(button.hasAttribute('disabled')).toBe(false);
  });

  it('has the bake of the shot as it stands with it, if that is wanted', async () => {
    const asked = server();
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined);
    const fresh = show(<HandOffCard />, documentOf(), undefined, { bake: BAKE as never });
    await fresh.user.click(fresh.getByTestId('package-with-bake'));
    await waitFor(() => expect(asked).toContainEqual(['GET', 'shots/shot/package?bake=1']));
    await waitFor(() => expect(fresh.getByTestId('package').hasAttribute('disabled')).toBe(false));
    await fresh.user.click(fresh.getByTestId('package'));
    await waitFor(() => expect(asked).toContainEqual(['GET', 'shots/shot/package']));
    fresh.unmount();
    const stale = show(<HandOffCard />, documentOf(), undefined, { bake: { ...BAKE, stale: true } as never });
    expect(stale.getByTestId('package-with-bake').hasAttribute('disabled')).toBe(true);
  });
});
