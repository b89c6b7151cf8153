import { act, renderHook, waitFor } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createElement, type ReactNode } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { ShotDocument } from '../../resources/ts/api/types';
import { useShot } from '../../resources/ts/state/useShot';
import { useView } from '../../resources/ts/state/view';
import { documentOf } from './harness';

interface Stored {
  id: string;
  document: ShotDocument;
}

/** A server that stores a document under a head, as ours does; `refuse` answers the next saves instead. */
function server() {
  let stored: Stored = { id: 'r1', document: documentOf() };
  const state = {
    refuse: [] as number[],
    saves: [] as ShotDocument[],
    undone: 0,
    hold: null as Promise<void> | null,
    /** Answers to reading that are under way wait for it, with what was stored when they were asked. */
    slow: null as Promise<void> | null,
    get stored() {
      return stored;
    },
    /** Somebody else stores a revision. */
    change: (document: ShotDocument) => {
      stored = { id: `${stored.id}x`, document };
    },
  };
  const json = (status: number, body: object) => new Response(JSON.stringify(body), { status });
  const shot = () => json(200, { id: 's', name: 'S', document: stored.document, head: { id: stored.id } });
  vi.spyOn(globalThis, 'fetch').mockImplementation(async (_, init) => {
    const own = (init?.headers as Record<string, string> | undefined)?.['If-Match'] === `"${stored.id}"`;
    if (init?.method === 'POST') {
      if (!own) return json(412, { title: 'The shot has changed meanwhile', detail: 'Reload.' });
      stored = { id: `u${++state.undone}`, document: { ...stored.document, frames: 100 + state.undone } };
    }
    if (init?.method !== 'PUT') {
      const read = shot();
      if (state.slow) await state.slow;
      return read;
    }
    if (state.hold) await state.hold;
    const status = state.refuse.shift();
    if (status) return json(status, { title: `No (${status})`, detail: 'Because.' });
    if ((init.headers as Record<string, string>)['If-Match'] !== `"${stored.id}"`)
      return json(412, { title: 'The shot has changed meanwhile', detail: 'Reload.' });
    const { document } = JSON.parse(init.body as string) as { document: ShotDocument };
    state.saves.push(document);
    stored = { id: `r${state.saves.length + 1}`, document };
    return shot();
  });
  return state;
}

async function open() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const wrapper = ({ children }: { children: ReactNode }) =>
    createElement(QueryClientProvider, { client }, children);
  const { result } = renderHook(() => useShot('s'), { wrapper });
  await waitFor(() => expect(result.current.handle).not.toBeNull());
  const handle = () => {
    if (!result.current.handle) throw new Error('The shot is not open.');
    return result.current.handle;
  };
  return {
    handle,
    edit: (part: Partial<ShotDocument>) => act(() => handle().edit((doc) => ({ ...doc, ...part }))),
  };
}

describe('an open shot', () => {
  it('shows an edit at once and stores quick ones as one revision', async () => {
    const stored = server();
    const { handle, edit } = await open();
    edit({ frames: 50 });
    edit({ frames: 60 });
    edit({ fps: 30 });
    expect(handle().shot.document).toMatchObject({ frames: 60, fps: 30 });
    expect(handle().saving).toBe('saving');
    await waitFor(() => expect(handle().saving).toBe('saved'));
    expect(stored.saves).toHaveLength(1);
    expect(stored.stored.document).toMatchObject({ frames: 60, fps: 30 });
  });

  it('keeps what is edited while a save is under way, whatever becomes of the save', async () => {
    const stored = server();
    const { handle, edit } = await open();
    let go = () => {};
    stored.hold = new Promise((resolve) => (go = resolve));
    stored.refuse = [422];
    edit({ frames: 50 });
    const first = act(() => handle().settled().catch(String));
    edit({ fps: 30 });
    stored.hold = null;
    go();
    await first;
    await waitFor(() => expect(handle().saving).toBe('saved'));
    // What was refused is taken back and said; what came after it is stored.
    expect(handle().shot.document).toMatchObject({ frames: documentOf().frames, fps: 30 });
    expect(stored.stored.document).toMatchObject({ fps: 30 });
    expect(useView.getState().notices.some((notice) => notice.title === 'No (422)')).toBe(true);
    edit({ frames: 70 });
    await act(() => handle().settled());
    expect(stored.stored.document).toMatchObject({ fps: 30, frames: 70 });
  });

  it('is not set back by an answer that was read before a save', async () => {
    const stored = server();
    const { handle, edit } = await open();
    let go = () => {};
    stored.slow = new Promise((resolve) => (go = resolve));
    act(() => handle().reload());
    edit({ frames: 50 });
    await waitFor(() => expect(handle().saving).toBe('saved'));
    go();
    await act(() => new Promise((resolve) => setTimeout(resolve, 50)));
    expect(handle().shot).toMatchObject({ document: { frames: 50 }, head: { id: 'r2' } });
  });

  it('tries again when the server cannot store right now, and says so once', async () => {
    const stored = server();
    stored.refuse = [503, 503];
    const { handle, edit } = await open();
    edit({ frames: 50 });
    await waitFor(() => expect(handle().saving).toBe('waiting'));
    expect(handle().shot.document.frames).toBe(50);
    await waitFor(() => expect(handle().saving).toBe('saved'), { timeout: 8000 });
    expect(stored.stored.document.frames).toBe(50);
    expect(useView.getState().notices.filter((notice) => notice.title === 'Not saved yet')).toHaveLength(1);
  }, 10_000);

  it('lays its edits over what somebody else has stored, if one says so', async () => {
    const stored = server();
    const { handle, edit } = await open();
    stored.change({ ...documentOf(), fps: 60 });
    edit({ frames: 50 });
    await waitFor(() => expect(handle().saving).toBe('conflict'));
    expect(stored.saves).toHaveLength(0);
    const notice = useView.getState().notices.find((each) => each.actions?.length);
    act(() => notice?.actions?.find((action) => action.label === 'Put mine on top')?.run());
    await waitFor(() => expect(handle().saving).toBe('saved'));
    expect(stored.stored.document).toMatchObject({ fps: 60, frames: 50 });
  });
});

describe('what is taken back', () => {
  it('lets edits and further steps wait until it has come back', async () => {
    const state = server();
    const { handle, edit } = await open();
    let answer = () => {};
    state.slow = new Promise((done) => (answer = done));
    act(() => handle().undo());
    await waitFor(() => expect(state.undone).toBe(1));
    act(() => handle().undo());
    edit({ fps: 30 });
    // Longer than an edit waits before it is stored.
    await new Promise((done) => setTimeout(done, 400));
    expect(state.saves).toEqual([]);
    state.slow = null;
    answer();
    await waitFor(() => expect(state.saves).toHaveLength(1));
    await waitFor(() => expect(state.undone).toBe(2));
    await waitFor(() => expect(handle().saving).toBe('saved'));
    expect(state.stored.document.fps).toBe(30);
    expect(useView.getState().notices.filter(({ kind }) => kind === 'error')).toEqual([]);
  });
});
