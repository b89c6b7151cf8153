import { waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { isFound } from '../../resources/ts/cues/found';
import { CueEditor } from '../../resources/ts/cues/CueEditor';
import { standard } from '../../resources/ts/api/schema';
import type { Cue } from '../../resources/ts/api/types';
import { SaveFile } from '../../resources/ts/stages/SaveFile';
import { documentOf, show, withProp } from './harness';

/** Answers of the server, one after the other; the last one again and again. */
function server(...answers: [status: number, body: object][]) {
  let next = 0;
  return vi.spyOn(globalThis, 'fetch').mockImplementation(() => {
    const [status, body] = answers[Math.min(next++, answers.length - 1)] as [number, object];
    const type = status < 400 ? 'application/json' : 'application/problem+json';
    return Promise.resolve(new Response(JSON.stringify(body), { status, headers: { 'Content-Type': type } }));
  });
}

describe('saving a file', () => {
  const file = () =>
    show(<SaveFile bake="b" format="glb" frame={3} testId="save" label="Save" />, documentOf());

  it('follows one that a worker writes, with the time it will take, and can stop it', async () => {
    const asked = server(
      [202, { id: 'e', status: 'queued', href: null }],
      [200, { id: 'e', status: 'running', done: 12, total: 48, remaining: 7.2, href: null }],
      [200, { id: 'e', status: 'running', done: 12, total: 48, remaining: 7.2, href: null }],
      [200, { id: 'e', status: 'cancelled', href: null }],
    );
    const { user, getByRole, findByText } = file();
    await user.click(getByRole('button', { name: 'Save' }));
    await findByText('Waiting for a worker.');
    await findByText('12 of 48, about 8 s left', {}, { timeout: 3000 });
    expect(getByRole('progressbar').getAttribute('aria-valuenow')).toBe('12');
    await user.click(getByRole('button', { name: 'Stop' }));
    await waitFor(() => getByRole('button', { name: 'Save' }), { timeout: 3000 });
    const urls = asked.mock.calls.map(([url]) => url as string);
    expect(urls[0]).toContain('bakes/b/exports');
    expect(urls.some((url) => url.endsWith('exports/e/cancel'))).toBe(true);
  });

  it('says what the server says when it cannot be written', async () => {
    server([422, { title: 'No room', detail: 'The disk is full. Remove old bakes.' }]);
    const { user, getByRole, findByRole } = file();
    await user.click(getByRole('button', { name: 'Save' }));
    expect((await findByRole('alert')).textContent).toContain('The disk is full');
  });
});

describe('a cue', () => {
  const cue = { ...(standard(['cues', 0]) as Cue), id: 'hit', name: 'Hit', frame: 12 };

  it('is renamed when its name is left, but never to nothing', async () => {
    const { user, getByLabelText, seen } = show(
      <CueEditor cue={cue} left={0} onClose={() => undefined} />,
      documentOf({ cues: [cue] }),
    );
    const name = getByLabelText('Name');
    await user.clear(name);
    await user.type(name, 'Strikes');
    await user.tab();
    expect(seen.document.cues[0]?.name).toBe('Strikes');
    await user.clear(name);
    await user.tab();
    expect(seen.document.cues[0]?.name).toBe('Strikes');
  });

  it('cannot be deleted while something hangs on it', async () => {
    const release = { trigger: 'cue', cue: { cue: 'hit' } };
    const used = { ...withProp(['release'], release), cues: [cue] } as ReturnType<typeof documentOf>;
    const first = show(<CueEditor cue={cue} left={0} onClose={() => undefined} />, used);
    expect((first.getByRole('button', { name: 'Delete' }) as HTMLButtonElement).disabled).toBe(true);
    first.unmount();
    const closed = vi.fn();
    const free = show(<CueEditor cue={cue} left={0} onClose={closed} />, documentOf({ cues: [cue] }));
    await free.user.click(free.getByRole('button', { name: 'Delete' }));
    expect(free.seen.document.cues).toEqual([]);
    expect(closed).toHaveBeenCalled();
  });
});

describe('a cue that is found', () => {
  const at = { moment: 'touch', touch: { prop: 'a', other: '', near: 0 } };
  const cue = { ...(standard(['cues', 0]) as Cue), id: 'hit', name: 'Hit', frame: 12, at } as Cue;

  it('says its frame, and lets one choose what it waits for', async () => {
    const { user, getByLabelText, getByText, findByRole, seen } = show(
      <CueEditor cue={cue} left={0} onClose={() => undefined} />,
      documentOf({ cues: [cue] }),
    );
    getByText('12 f, found');
    getByText('a floor');
    await user.click(getByLabelText('Touches'));
    await user.click(await findByRole('option', { name: 'A' }));
    expect(seen.document.cues[0]?.at).toMatchObject({ touch: { prop: 'a', other: 'a' } });
  });

  it('is where it is put as soon as one says so', () => {
    expect(isFound(cue)).toBe(true);
    expect(isFound(standard(['cues', 0]) as Cue)).toBe(false);
    expect(isFound({ id: 'new', name: 'New', frame: 3 } as Cue)).toBe(false);
  });
});
