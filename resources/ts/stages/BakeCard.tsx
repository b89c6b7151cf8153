import { Play, Square } from 'lucide-react';
import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { playsOtherwise } from '../shot/summary';
import { Button } from '../ui/controls';
import { Findings } from './Findings';
import { leftText } from '../ui/left';

export function BakeCard() {
  const { bake, startBake, cancelBake, handle } = useContext(ShotContext);
  const live = bake?.status === 'running' || bake?.status === 'queued';
  // A pre-roll counts too: it is part of the wait.
  const share = bake ? (bake.done + bake.rolled) / (bake.frames + bake.preRoll) : 0;
  return (
    <>
      <Findings />
      <div className="flex items-center gap-2">
        {live ? (
          <Button onClick={cancelBake} data-testid="cancel">
            <Square size={13} /> Cancel
          </Button>
        ) : (
          <Button
            look="main"
            onClick={startBake}
            disabled={bake?.status === 'done' && !bake.stale}
            data-testid="bake"
          >
            <Play size={14} />{' '}
            {bake?.status === 'done' && !bake.stale ? 'Baked' : bake ? 'Bake again' : 'Bake'}
          </Button>
        )}
        <span className="text-ink-2">
          {live
            ? ''
            : bake?.status === 'done' && !bake.stale
              ? 'The frames fit the shot as it stands.'
              : 'or press B'}
        </span>
      </div>
      {bake ? (
        <div className="mt-3" data-testid="bake-state" data-status={bake.status} data-stale={bake.stale}>
          <div
            className="h-2 overflow-hidden rounded-sm bg-well"
            role="progressbar"
            aria-label="Bake"
            aria-valuemin={0}
            aria-valuemax={bake.frames + bake.preRoll}
            aria-valuenow={bake.done + bake.rolled}
          >
            <div
              className={`h-full ${bake.stale ? 'hatch bg-warn' : 'bg-teal'}`}
              style={{ width: `${100 * share}%` }}
            />
          </div>
          <p className="mt-1">{progressText(bake)}</p>
          {bake.error ? (
            <p role="alert" className="mt-1 text-error">
              {bake.error}
            </p>
          ) : null}
          {bake.kept > 0 ? (
            <p className="mt-1 text-ink-2" data-testid="kept">
              {bake.kept === bake.frames
                ? 'All frames were there already, and none had to be computed.'
                : `${bake.kept === 1 ? 'Frame 1 stays' : `Frames 1 to ${bake.kept} stay`}: nothing that acts up to there has changed.`}
            </p>
          ) : null}
          {bake.waiting ? <p className="mt-1 text-warn">{bake.waiting}</p> : null}
          {bake.stale && !live ? (
            <div className="mt-3 rounded-md border border-warn p-2">
              <p className="font-semibold text-warn">This bake is stale</p>
              <p className="text-ink-2">
                {bake.differences.length > 0
                  ? `It shows revision ${bake.revision}. Since then:`
                  : 'The shot is the same, but Yard Break itself computes it differently now. Bake it again to see how.'}
              </p>
              <ul className="ml-4 list-disc">
                {bake.differences.slice(0, 8).map((text) => (
                  <li key={text}>{text}</li>
                ))}
                {bake.differences.length > 8 ? <li>and {bake.differences.length - 8} more</li> : null}
              </ul>
            </div>
          ) : null}
        </div>
      ) : (
        <p className="mt-3 text-ink-2">
          Nothing baked yet. The frames play{' '}
          {playsOtherwise(handle.shot.document) ? 'once all of them are' : 'while they are'} computed.
        </p>
      )}
    </>
  );
}

function framesText(count: number): string {
  return count === 1 ? '1 frame' : `${count} frames`;
}

/** How many frames were computed; those before the first told apart. */
function framesSaid(bake: { done: number; kept: number; rolled: number }): string {
  const shown = framesText(bake.done - bake.kept);
  return bake.kept === 0 && bake.rolled > 0 ? `${shown} and ${bake.rolled} before them` : shown;
}

function progressText(bake: {
  status: string;
  done: number;
  frames: number;
  preRoll: number;
  rolled: number;
  kept: number;
  elapsed: number;
  remaining: number | null;
}): string {
  // What was taken over took no time.
  const computed = bake.done - bake.kept + (bake.kept === 0 ? bake.rolled : 0);
  const rate =
    bake.elapsed > 0 && computed > 0
      ? `${Number((computed / bake.elapsed).toPrecision(2))} frames a second`
      : '';
  switch (bake.status) {
    case 'queued':
      return 'Waiting for a worker.';
    case 'running':
      return [
        bake.done === 0 && bake.preRoll > 0
          ? `pre-roll, ${bake.rolled} of ${bake.preRoll} frames`
          : `${bake.done} of ${bake.frames} frames`,
        rate,
        bake.remaining === null ? '' : leftText(bake.remaining),
      ]
        .filter(Boolean)
        .join(', ');
    case 'done':
      if (bake.kept === bake.frames) return `${framesText(bake.frames)}.`;
      return `${[`${framesSaid(bake)} in ${bake.elapsed.toFixed(1)} s`, rate].filter(Boolean).join(', ')}.`;
    case 'cancelled':
      return `Cancelled after ${framesText(bake.done)}.`;
    default:
      return `Stopped after ${framesText(bake.done)}.`;
  }
}
