import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Pin } from 'lucide-react';
import { useContext } from 'react';
import { getJson, sendJson } from '../api/client';
import type { ListedBake } from '../api/types';
import { bytesText } from '../readout/units';
import { ShotContext } from '../shot/context';
import { bakeName, inText } from '../shot/useBeside';
import { useView } from '../state/view';
import { Button, Heading, IconButton } from '../ui/controls';

/** When it was made: the time today, else the day too. */
export function madeText(made: string | null, now = new Date()): string {
  if (!made) return '';
  const at = new Date(made);
  const time = at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
  return at.toDateString() === now.toDateString()
    ? time
    : `${at.toLocaleDateString([], { day: 'numeric', month: 'short' })}, ${time}`;
}

/** How often it is asked how far trials are, ms. */
const AGAIN = 700;

/** All bakes of the shot that are there, trials too. */
export function useBakes(): ListedBake[] {
  const { handle, bake } = useContext(ShotContext);
  const { shot } = handle;
  const query = useQuery({
    queryKey: ['bakes', shot.id, bake?.id, bake?.status],
    queryFn: ({ signal }) => getJson<{ bakes: ListedBake[] }>(`shots/${shot.id}/bakes`, signal),
    refetchInterval: ({ state: { data } }) =>
      data?.bakes.some(({ aside, status }) => aside && (status === 'running' || status === 'queued'))
        ? AGAIN
        : false,
    placeholderData: (before) => before,
  });
  return query.data?.bakes ?? [];
}

/** The bakes of the shot that are there: one is shown, others can be; the good one is kept. */
export function Bakes() {
  const done = useBakes().filter(({ status, aside }) => status === 'done' && !aside);
  if (done.length === 0) return null;
  return (
    <>
      <Heading>Bakes of this shot</Heading>
      <ul data-testid="bakes">
        {done.map((each) => (
          <BakeRow key={each.id} bake={each} />
        ))}
      </ul>
      <p className="mt-1 text-[12px] text-ink-2">
        To try several values of a setting, click into its number, in any stage. Older bakes are taken out in
        time; those with a pin stay.{' '}
        <a className="text-teal underline" href="/room">
          What takes room
        </a>
      </p>
    </>
  );
}

const SMALL = '!h-6 !px-2 text-[12px] whitespace-nowrap';

/** A finished bake, and what can be done with it. */
export function BakeRow({ bake: each }: { bake: ListedBake }) {
  const { handle, bake, showBake } = useContext(ShotContext);
  const { shot } = handle;
  const compared = useView((view) => view.beside.includes(each.id));
  const set = useView((view) => view.set);
  const notify = useView((view) => view.notify);
  const client = useQueryClient();
  const pin = useMutation({
    mutationFn: ({ id, pinned }: ListedBake) => sendJson('PATCH', `bakes/${id}`, { pinned: !pinned }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['bakes', shot.id] }),
    onError: (error) => notify({ kind: 'error', title: 'It is not kept', detail: error.message }),
  });
  return (
    <li className="flex items-start gap-1 border-b border-line py-1.5 last:border-0">
      <div className="min-w-0 flex-1">
        <p className={each.id === bake?.id ? 'font-semibold' : ''}>
          {each.aside || !each.trial ? bakeName(each) : `Revision ${each.revision}, ${inText(each.trial)}`}
          <span className="font-normal text-ink-2">
            {' '}
            · {madeText(each.made)} · {bytesText(each.bytes)}
          </span>
        </p>
        <p className="truncate text-[12px] text-ink-2" title={each.summary}>
          {each.summary}
        </p>
        <div className="mt-0.5 flex gap-1">
          {each.id === bake?.id ? (
            <span className="py-0.5 text-[12px] text-teal">is shown</span>
          ) : (
            <Button className={SMALL} onClick={() => void showBake(each.id)}>
              Show
            </Button>
          )}
          {each.id === bake?.id ? null : (
            <Button
              className={`${SMALL} ${compared ? 'bg-teal-wash text-teal' : ''}`}
              aria-pressed={compared}
              title="Both in one picture, at the same frame"
              onClick={() => set({ beside: compared ? [] : [each.id] })}
            >
              Compare
            </Button>
          )}
          {each.revision === shot.head.number ? null : (
            <Button
              className={SMALL}
              title={
                each.aside
                  ? 'Gives the shot this value; Ctrl Z takes that back'
                  : 'Makes the shot what it was then; Ctrl Z takes that back'
              }
              onClick={() => (each.aside ? handle.take(each.id) : handle.goBack(each.id))}
            >
              {each.aside ? 'Take it' : 'Go back to it'}
            </Button>
          )}
        </div>
      </div>
      <IconButton
        label={each.pinned ? 'Keep it no longer' : 'Keep this bake, whatever comes after it'}
        aria-pressed={each.pinned}
        className={`!h-7 ${each.pinned ? 'text-teal' : ''}`}
        onClick={() => pin.mutate(each)}
      >
        <Pin size={14} fill={each.pinned ? 'currentColor' : 'none'} />
      </IconButton>
    </li>
  );
}
