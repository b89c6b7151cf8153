import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { getJson, ProblemError, sendJson } from '../api/client';
import type { FullShot, ShotDocument } from '../api/types';
import { useView } from './view';

export type Saving = 'saved' | 'saving' | 'failed';

export interface ShotHandle {
  shot: FullShot;
  saving: Saving;
  edit: (change: (document: ShotDocument) => ShotDocument) => void;
  undo: () => void;
  redo: () => void;
  reload: () => void;
  /** Resolves when everything edited so far is stored. */
  settled: () => Promise<void>;
}

/** Long enough that a drag is one revision. */
const SAVE_AFTER = 250;

/** The shot with its unsaved edits. Edits show at once and are stored one revision at a time, each based on the last. */
export function useShot(id: string): { handle: ShotHandle | null; error: Error | null } {
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  const query = useQuery({
    queryKey: ['shot', id],
    queryFn: ({ signal }) => getJson<FullShot>(`shots/${id}`, signal),
  });
  const [draft, setDraft] = useState<ShotDocument | null>(null);
  const [saving, setSaving] = useState<Saving>('saved');
  const pending = useRef<ShotDocument | null>(null);
  const running = useRef<Promise<void> | null>(null);
  const timer = useRef(0);
  const latest = useRef<FullShot | null>(null);
  latest.current = query.data ?? null;

  const accept = useCallback(
    (shot: FullShot) => {
      latest.current = shot;
      client.setQueryData(['shot', id], shot);
    },
    [client, id],
  );

  const flush = useCallback((): Promise<void> => {
    window.clearTimeout(timer.current);
    if (running.current) return running.current.then(() => (pending.current ? flush() : undefined));
    const document = pending.current;
    const base = latest.current;
    if (!document || !base) return Promise.resolve();
    pending.current = null;
    setSaving('saving');
    running.current = sendJson<FullShot>(
      'PUT',
      `shots/${id}/document`,
      { document },
      { 'If-Match': `"${base.head.id}"` },
    )
      .then((shot) => {
        accept(shot);
        setSaving('saved');
        if (!pending.current) setDraft(null);
      })
      .catch((error: unknown) => {
        const problem =
          error instanceof ProblemError ? error : new ProblemError(0, 'Not saved', String(error));
        setSaving('failed');
        pending.current = null;
        setDraft(null);
        notify({ kind: 'error', title: problem.title, detail: problem.message });
        void client.invalidateQueries({ queryKey: ['shot', id] });
      })
      .finally(() => {
        running.current = null;
      });
    return running.current.then(() => (pending.current ? flush() : undefined));
  }, [accept, client, id, notify]);

  const edit = useCallback(
    (change: (document: ShotDocument) => ShotDocument) => {
      const base = pending.current ?? draft ?? latest.current?.document;
      if (!base) return;
      const next = change(base);
      if (next === base) return;
      pending.current = next;
      setDraft(next);
      setSaving('saving');
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(() => void flush(), SAVE_AFTER);
    },
    [draft, flush],
  );

  const step = useCallback(
    (which: 'undo' | 'redo') => {
      void flush()
        .then(() =>
          sendJson<FullShot>('POST', `shots/${id}/${which}`, undefined, {
            'If-Match': `"${latest.current?.head.id ?? ''}"`,
          }),
        )
        .then(accept)
        .catch((error: unknown) => {
          if (error instanceof ProblemError)
            notify({
              kind: error.status === 409 ? 'info' : 'error',
              title: error.title,
              detail: error.message,
            });
        });
    },
    [accept, flush, id, notify],
  );

  useEffect(() => {
    const leaving = (event: BeforeUnloadEvent) => {
      if (pending.current) {
        void flush();
        event.preventDefault();
      }
    };
    window.addEventListener('beforeunload', leaving);
    return () => {
      window.removeEventListener('beforeunload', leaving);
      void flush();
    };
  }, [flush]);

  if (!query.data) return { handle: null, error: query.error };
  return {
    error: null,
    handle: {
      shot: draft ? { ...query.data, document: draft } : query.data,
      saving,
      edit,
      undo: () => step('undo'),
      redo: () => step('redo'),
      reload: () => void client.invalidateQueries({ queryKey: ['shot', id] }),
      settled: flush,
    },
  };
}
