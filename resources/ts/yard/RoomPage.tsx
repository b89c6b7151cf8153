import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowLeft, Pin, Trash2 } from 'lucide-react';
import { getJson, sendJson } from '../api/client';
import type { ListedBake } from '../api/types';
import { bytesText } from '../readout/units';
import { madeText } from '../stages/Bakes';
import { go } from '../state/route';
import { useView } from '../state/view';
import { bakeName } from '../shot/useBeside';
import { Button, IconButton } from '../ui/controls';

interface Store {
  /** Bytes by what they are for. */
  parts: Record<string, number>;
  /** Null: nobody knows. */
  free: number | null;
  limits: { computed: number; bakes: number };
  shots: { id: string; name: string; deleted: boolean; bakes: ListedBake[] }[];
}

/** What each part of the store is, in the order in which it is listed. */
const PARTS: [name: string, title: string, about: string][] = [
  ['bakes', 'Bakes', 'Frames of each shot. Listed below.'],
  ['stages', 'Broken meshes, weights', 'Kept so that nothing is computed twice. Can be computed again.'],
  ['checkpoints', 'States of bakes', 'From which a bake goes on. Can be computed again.'],
  ['exports', 'Files handed off', 'Kept for a day.'],
  ['assets', 'Files brought in', 'Meshes, art and pictures: they stay.'],
  ['pictures', 'Pictures of the yard', ''],
  ['database', 'Shots and their revisions', 'They stay.'],
];
const COMPUTED = ['stages', 'checkpoints'];

/** What takes room on the disk, and what of it can go. */
export function RoomPage() {
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  const query = useQuery({
    queryKey: ['store'],
    queryFn: ({ signal }) => getJson<Store>('store', signal),
    staleTime: 0,
  });
  const change = useMutation({
    mutationFn: ({ method, path, body }: { method: string; path: string; body?: object }) =>
      sendJson<{ freed?: number }>(method, path, body),
    onSuccess: ({ freed }) => {
      void client.invalidateQueries({ queryKey: ['store'] });
      if (freed !== undefined) notify({ kind: 'info', title: `${bytesText(freed)} are free again` });
    },
    onError: (error) => notify({ kind: 'error', title: 'That did not work', detail: error.message }),
  });
  const store = query.data;
  const computed = COMPUTED.reduce((sum, part) => sum + (store?.parts[part] ?? 0), 0);
  return (
    <main className="mx-auto flex h-full max-w-[880px] flex-col px-6">
      <header className="flex h-16 shrink-0 items-center gap-3">
        <IconButton label="Back to the yard" onClick={() => go('/')}>
          <ArrowLeft size={16} />
        </IconButton>
        <h1 className="text-[20px] font-semibold">What takes room</h1>
      </header>
      {query.error ? (
        <p role="alert" className="text-error">
          {query.error.message}
        </p>
      ) : null}
      {store ? (
        <>
          <p className="mb-3 text-ink-2">
            {store.free === null ? '' : `${bytesText(store.free)} are free on the disk. `}Every few minutes
            what nobody needs is taken out: all but the newest {store.limits.bakes} bakes of a shot and those
            with a pin, and what can be computed again beyond {bytesText(store.limits.computed)}.
          </p>
          <table className="mb-2 w-full" data-testid="parts">
            <tbody>
              {PARTS.map(([part, title, about]) => (
                <tr key={part} className="border-b border-line">
                  <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                    {title}
                  </th>
                  <td className="pr-4 text-ink-2">{about}</td>
                  <td className="text-right tabular-nums">{bytesText(store.parts[part] ?? 0)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mb-6">
            <Button
              disabled={computed === 0 || change.isPending}
              onClick={() => change.mutate({ method: 'POST', path: 'store/empty' })}
            >
              Take out what can be computed again ({bytesText(computed)})
            </Button>
          </p>
          <h2 className="mb-1 font-semibold">Bakes</h2>
          {store.shots.length === 0 ? <p className="text-ink-2">Nothing has been baked yet.</p> : null}
          {store.shots.map((shot) => (
            <section key={shot.id} className="mb-4" aria-label={shot.name}>
              <p className="flex justify-between">
                {shot.deleted ? (
                  <span>{shot.name} (deleted)</span>
                ) : (
                  <a className="text-teal hover:underline" href={`/shots/${shot.id}?stage=bake`}>
                    {shot.name}
                  </a>
                )}
                <span className="text-ink-2 tabular-nums">
                  {bytesText(shot.bakes.reduce((sum, bake) => sum + bake.bytes, 0))}
                </span>
              </p>
              <ul>
                {shot.bakes.map((bake) => (
                  <Row
                    key={bake.id}
                    bake={bake}
                    onPin={() =>
                      change.mutate({
                        method: 'PATCH',
                        path: `bakes/${bake.id}`,
                        body: { pinned: !bake.pinned },
                      })
                    }
                    onRemove={() => change.mutate({ method: 'DELETE', path: `bakes/${bake.id}` })}
                  />
                ))}
              </ul>
            </section>
          ))}
        </>
      ) : null}
    </main>
  );
}

function Row({ bake, onPin, onRemove }: { bake: ListedBake; onPin: () => void; onRemove: () => void }) {
  const live = bake.status === 'running' || bake.status === 'queued';
  const what = bake.trial ? `the trial “${bake.trial}”` : `the bake of revision ${bake.revision}`;
  return (
    <li className="flex items-center gap-2 border-b border-line pl-3 text-ink-2">
      <span className="min-w-0 flex-1 truncate">
        {bakeName(bake)} · {madeText(bake.made)} · {bake.done} frames
        {bake.status === 'done' ? '' : `, ${bake.status}`}
      </span>
      <span className="tabular-nums">{bytesText(bake.bytes)}</span>
      <IconButton
        label={bake.pinned ? `Keep ${what} no longer` : `Keep ${what}`}
        aria-pressed={bake.pinned}
        className={`!h-7 ${bake.pinned ? 'text-teal' : ''}`}
        onClick={onPin}
      >
        <Pin size={14} fill={bake.pinned ? 'currentColor' : 'none'} />
      </IconButton>
      <IconButton
        label={live ? `Cancel ${what} first` : bake.pinned ? `Take the pin off first` : `Remove ${what}`}
        className="!h-7"
        disabled={live || bake.pinned}
        onClick={onRemove}
      >
        <Trash2 size={14} />
      </IconButton>
    </li>
  );
}
