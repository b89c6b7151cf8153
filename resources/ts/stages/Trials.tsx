import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useContext, useEffect, useId, useState } from 'react';
import { sendJson } from '../api/client';
import { fieldAt } from '../api/schema';
import { text as said } from '../api/text';
import type { ListedBake } from '../api/types';
import { ShotContext } from '../shot/context';
import { bakeName } from '../shot/useBeside';
import { read, type Path } from '../state/document';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';
import { BakeRow, useBakes } from './Bakes';
import { MOST, suggested, typed } from '../fields/trying';

/** One setting over several values: each is baked, and all of them are looked at side by side. */
export function Trials() {
  const { handle, bake, showBake } = useContext(ShotContext);
  const { shot } = handle;
  const trying = useView((view) => view.trying);
  const set = useView((view) => view.set);
  const notify = useView((view) => view.notify);
  const client = useQueryClient();
  const trials = useBakes()
    .filter(({ aside }) => aside)
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const out = useMutation({
    mutationFn: () => sendJson('DELETE', `shots/${shot.id}/trials`),
    onSuccess: () => client.invalidateQueries({ queryKey: ['bakes', shot.id] }),
    onError: (error) => notify({ kind: 'error', title: 'They are not taken out', detail: error.message }),
  });
  const done = trials.filter(({ status }) => status === 'done');
  const live = trials.some(({ status }) => status === 'queued' || status === 'running');
  if (!trying && trials.length === 0) return null;
  return (
    <>
      <Heading>Trials</Heading>
      {trying ? <Form key={trying.join('/')} path={trying} /> : null}
      <ul data-testid="trials">
        {trials.map((each) =>
          each.status === 'done' ? (
            <BakeRow key={each.id} bake={each} />
          ) : (
            <li key={each.id} className="border-b border-line py-1.5 last:border-0">
              <Under bake={each} />
            </li>
          ),
        )}
      </ul>
      {trials.length > 0 ? (
        <div className="mt-1 flex gap-1">
          <Button
            disabled={done.length === 0}
            onClick={() => {
              const [first, ...others] = done.map(({ id }) => id);
              if (bake?.status === 'done') set({ split: 'apart', beside: done.map(({ id }) => id) });
              else if (first)
                void showBake(first).then(() => set({ split: 'apart', beside: others, playing: false }));
            }}
          >
            All side by side
          </Button>
          <Button
            look="quiet"
            onClick={() => {
              const pinned = trials.filter((each) => each.pinned).map(({ id }) => id);
              set({ beside: useView.getState().beside.filter((id) => pinned.includes(id)) });
              out.mutate();
            }}
          >
            {live ? 'Stop and take out' : 'Take them out'}
          </Button>
        </div>
      ) : null}
    </>
  );
}

/** One that is not done: how far it is, or why it ended. */
function Under({ bake }: { bake: ListedBake }) {
  return (
    <>
      <p className="flex justify-between gap-2">
        {bakeName(bake)}
        <span className="text-ink-2">
          {bake.status === 'queued'
            ? 'waits for a worker'
            : bake.status === 'running'
              ? `${bake.done} of ${bake.frames} frames`
              : `stopped after frame ${bake.done}`}
        </span>
      </p>
      {bake.error ? (
        <p role="alert" className="text-error">
          {bake.error}
        </p>
      ) : null}
    </>
  );
}

/** Which values to try of a setting. */
function Form({ path }: { path: Path }) {
  const { handle } = useContext(ShotContext);
  const { shot } = handle;
  const set = useView((view) => view.set);
  const client = useQueryClient();
  const id = useId();
  const field = fieldAt(path);
  const unit = field['x-unit'];
  const value = read(shot.document, path);
  const [text, setText] = useState(() =>
    typeof value === 'number' ? suggested(field, value, String(path.at(-1))).join(', ') : '',
  );
  const gone = typeof value !== 'number';
  useEffect(() => {
    if (gone) set({ trying: null });
  }, [gone, set]);
  const numbers = typed(text, unit);
  const wrong =
    numbers === null
      ? `Numbers, separated by commas${unit ? `, in ${unit}` : ''}.`
      : numbers.length > MOST
        ? `${MOST} at once at the most.`
        : null;
  const start = useMutation({
    mutationFn: async () => {
      await handle.settled();
      return sendJson<{ bakes: ListedBake[] }>('POST', `shots/${shot.id}/trials`, {
        pointer: `/${path.join('/')}`,
        values: numbers,
      });
    },
    onSuccess: () => {
      set({ trying: null });
      // What was baked already may be one of them.
      handle.reload();
      return client.invalidateQueries({ queryKey: ['bakes', shot.id] });
    },
  });
  const owner =
    path.length > 2 ? said((read(shot.document, path.slice(0, 2)) as { name?: string }).name) : '';
  const count = numbers?.length ?? 0;
  return (
    <form
      className="mb-2 rounded-md border border-line p-2"
      data-testid="try"
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong && count > 0) start.mutate();
      }}
    >
      <label htmlFor={id} className="mb-1 block">
        {owner ? `${owner}: ` : ''}
        {field.title}
        {unit ? <span className="text-ink-2"> in {unit}</span> : null}
      </label>
      <input
        id={id}
        autoComplete="off"
        aria-invalid={wrong !== null}
        aria-describedby={`${id}-wrong`}
        className={`h-7 w-full rounded-md border bg-paper px-2 ${wrong ? 'border-error' : 'border-line'}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p
        id={`${id}-wrong`}
        role={(wrong ?? start.error) ? 'alert' : undefined}
        className="text-[12px] text-error"
      >
        {wrong ?? start.error?.message}
      </p>
      <div className="mt-1 flex gap-1">
        <Button type="submit" look="main" disabled={wrong !== null || count === 0 || start.isPending}>
          {count === 1 ? 'Bake 1 trial' : `Bake ${count} trials`}
        </Button>
        <Button look="quiet" onClick={() => set({ trying: null })}>
          Not now
        </Button>
      </div>
      <p className="mt-1 text-[12px] text-ink-2">
        The shot stays as it is; the trials wait for its own bakes.
      </p>
    </form>
  );
}
