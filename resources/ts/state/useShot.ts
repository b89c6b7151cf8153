import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { getJson, ProblemError, sendJson } from '../api/client';
import type { FullShot, ShotDocument } from '../api/types';
import { useView } from './view';

export type Saving = 'saved' | 'saving' | 'waiting' | 'conflict';
type Change = (document: ShotDocument) => ShotDocument;

export interface ShotHandle {
  shot: FullShot;
  saving: Saving;
  edit: (change: Change) => void;
  /** While something is held in the hand its edits wait: what is done in one go is stored, and undone, in one step. */
  hold: (held: boolean) => void;
  undo: () => void;
  redo: () => void;
  /** Makes the shot what it was when a bake was made. */
  goBack: (bake: string) => void;
  /** Gives the shot the value that a trial has. */
  take: (trial: string) => void;
  reload: () => void;
  /** Resolves when everything edited so far is stored; rejects if it cannot be. */
  settled: () => Promise<void>;
}

/** Long enough that a drag is one revision. */
const SAVE_AFTER = 250;

/** Trouble that may pass: no answer, or a server that cannot store right now. */
function mayPass(error: unknown): boolean {
  return !(error instanceof ProblemError) || error.status === 0 || error.status >= 500;
}

/**
 * The shot with its unsaved edits. Edits show at once and wait in a queue as the changes they are; a save takes all that
 * wait, based on the last revision. What comes meanwhile is laid over the answer, whatever it is; so nothing is lost when a
 * save fails.
 */
export function useShot(id: string): { handle: ShotHandle | null; error: Error | null } {
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  const answers = useRef(0);
  const query = useQuery({
    queryKey: ['shot', id],
    queryFn: async ({ signal }) => {
      const before = answers.current;
      const read = await getJson<FullShot>(`shots/${id}`, signal);
      // Read before the last save was answered: what the save answered is newer.
      return answers.current === before ? read : (latest.current ?? read);
    },
  });
  const [draft, setDraft] = useState<ShotDocument | null>(null);
  const [saving, setSaving] = useState<Saving>('saved');
  const waiting = useRef<{ number: number; change: Change }[]>([]);
  const made = useRef(0);
  const edited = useRef<ShotDocument | null>(null);
  const busy = useRef(0);
  /** The last save that was asked for, until it is answered. */
  const storing = useRef<Promise<void> | null>(null);
  const flushed = useRef<() => Promise<void>>(() => Promise.resolve());
  const timer = useRef(0);
  const held = useRef(false);
  const latest = useRef<FullShot | null>(null);
  if (busy.current === 0) latest.current = query.data ?? latest.current;

  const show = useCallback(() => {
    const base = latest.current?.document;
    edited.current =
      base && waiting.current.length > 0
        ? waiting.current.reduce((doc, { change }) => change(doc), base)
        : null;
    setDraft(edited.current);
  }, []);
  const accept = useCallback(
    (shot: FullShot) => {
      latest.current = shot;
      answers.current++;
      client.setQueryData(['shot', id], shot);
      show();
    },
    [client, id, show],
  );

  const { mutateAsync: store } = useMutation({
    // One after the other, and again until the server answers.
    scope: { id: `save ${id}` },
    mutationFn: (save: { document: ShotDocument; head: string }) =>
      sendJson<FullShot>(
        'PUT',
        `shots/${id}/document`,
        { document: save.document },
        { 'If-Match': `"${save.head}"` },
      ),
    retry: (failures, error) => {
      if (!mayPass(error)) return false;
      setSaving('waiting');
      if (failures === 0)
        notify({
          kind: 'error',
          title: 'Not saved yet',
          detail: `${error.message} Your edits are kept here and are saved as soon as it works again.`,
        });
      return true;
    },
    retryDelay: (failures) => Math.min(1000 * 2 ** failures, 8000),
  });

  /** What is asked of the server to change the shot: one thing after the other, each based on what came of the last. */
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = useCallback(<T>(work: () => Promise<T>): Promise<T> => {
    busy.current++;
    const done = queue.current.then(work).finally(() => busy.current--);
    queue.current = done.catch(ignore);
    return done;
  }, []);

  /** Stores the edits that were made up to one of them, by number. */
  const save = useCallback(
    async (last: number): Promise<void> => {
      const base = latest.current;
      const own = waiting.current.filter(({ number }) => number <= last);
      if (!base || own.length === 0) return;
      setSaving('saving');
      const document = own.reduce((doc, { change }) => change(doc), base.document);
      try {
        const shot = await store({ document, head: base.head.id });
        waiting.current = waiting.current.slice(own.length);
        accept(shot);
        setSaving(waiting.current.length > 0 ? 'saving' : 'saved');
      } catch (error) {
        const problem =
          error instanceof ProblemError ? error : new ProblemError(0, 'Not saved', String(error));
        if (problem.status === 412) {
          setSaving('conflict');
          notify({
            kind: 'error',
            title: problem.title,
            detail: 'Your edits are kept here, but not stored.',
            actions: [
              {
                label: 'Put mine on top',
                run: () =>
                  void getJson<FullShot>(`shots/${id}`).then(accept).then(flushed.current).catch(ignore),
              },
              {
                label: 'Drop mine',
                run: () => {
                  waiting.current = [];
                  setSaving('saved');
                  void getJson<FullShot>(`shots/${id}`).then(accept).catch(ignore);
                },
              },
            ],
          });
        } else {
          // What was refused is taken back; what came after it stays.
          waiting.current = waiting.current.slice(own.length);
          show();
          setSaving(waiting.current.length > 0 ? 'saving' : 'saved');
          notify({ kind: 'error', title: problem.title, detail: problem.message });
        }
        throw problem;
      }
    },
    [accept, id, notify, show, store],
  );

  const flush = useCallback((): Promise<void> => {
    window.clearTimeout(timer.current);
    const last = waiting.current.at(-1)?.number;
    if (last === undefined) return queue.current.then(() => undefined);
    const earlier = storing.current;
    const own = inTurn(() => save(last));
    storing.current = own;
    void own.catch(ignore).then(() => {
      if (storing.current === own) storing.current = null;
    });
    return Promise.all([earlier, own]).then(() => undefined);
  }, [inTurn, save]);
  flushed.current = flush;

  const edit = useCallback(
    (change: Change) => {
      const base = edited.current ?? latest.current?.document;
      if (!base) return;
      const next = change(base);
      if (next === base) return;
      waiting.current.push({ number: ++made.current, change });
      edited.current = next;
      setDraft(next);
      setSaving((now) => (now === 'conflict' ? now : 'saving'));
      window.clearTimeout(timer.current);
      if (!held.current) timer.current = window.setTimeout(() => void flush().catch(ignore), SAVE_AFTER);
    },
    [flush],
  );
  const hold = useCallback(
    (now: boolean) => {
      held.current = now;
      if (!now) void flush().catch(ignore);
    },
    [flush],
  );

  const step = useCallback(
    (path: string) => {
      // What was edited before it is stored first, what is edited after it later.
      const before = flush();
      void inTurn(() =>
        before
          .then(() =>
            sendJson<FullShot>('POST', path, undefined, {
              'If-Match': `"${latest.current?.head.id ?? ''}"`,
            }),
          )
          .then(accept),
      ).catch((error: unknown) => {
        // What flush could not store has been said already.
        if (error instanceof ProblemError && error.status !== 412)
          notify({
            kind: error.status === 409 ? 'info' : 'error',
            title: error.title,
            detail: error.message,
          });
      });
    },
    [accept, flush, inTurn, notify],
  );

  useEffect(() => {
    const leaving = (event: BeforeUnloadEvent) => {
      if (waiting.current.length > 0) {
        void flush().catch(ignore);
        event.preventDefault();
      }
    };
    window.addEventListener('beforeunload', leaving);
    return () => {
      window.removeEventListener('beforeunload', leaving);
      void flush().catch(ignore);
    };
  }, [flush]);

  if (!query.data) return { handle: null, error: query.error };
  return {
    error: null,
    handle: {
      shot: draft ? { ...query.data, document: draft } : query.data,
      saving,
      edit,
      hold,
      undo: () => step(`shots/${id}/undo`),
      redo: () => step(`shots/${id}/redo`),
      goBack: (bake) => step(`bakes/${bake}/go-back`),
      take: (trial) => step(`bakes/${trial}/take`),
      reload: () => void client.invalidateQueries({ queryKey: ['shot', id] }),
      settled: flush,
    },
  };
}

function ignore(): void {
  // It has been said where it happened.
}
