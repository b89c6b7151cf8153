import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { getJson, ProblemError, sendJson } from '../api/client';
import type { BakeState, Finding, PropReadout, ReadoutRow, Tracks } from '../api/types';
import { CueStrip } from '../cues/CueStrip';
import { isFound } from '../cues/found';
import { Readout } from '../readout/Readout';
import { StageCard } from '../stages/StageCard';
import { seek } from '../state/frame';
import { go, useAddress } from '../state/route';
import { useBeside } from './useBeside';
import { useDrawnWeight } from './useDrawnWeight';
import type { Numbers } from '../state/numbers';
import { useShot, type ShotHandle } from '../state/useShot';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { useFrames } from '../tracks/useFrames';
import { Viewport } from '../viewport/Viewport';
import { CommandPalette } from './CommandPalette';
import { ShotContext, type ShotScope } from './context';
import { Shortcuts, useShortcuts } from './Shortcuts';
import { DroppedFiles } from './DroppedFiles';
import { ShotSheet } from './ShotSheet';
import { StagePath } from './StagePath';
import { TopBar } from './TopBar';

export function ShotScreen({ id }: { id: string }) {
  useAddress(id);
  const { handle, error } = useShot(id);
  if (error)
    return (
      <main className="p-10">
        <p className="text-[20px]">This shot cannot be opened</p>
        <p className="mb-4 text-ink-2">{error.message}</p>
        <Button onClick={() => go('/')}>Back to the yard</Button>
      </main>
    );
  return handle ? <OpenShot handle={handle} /> : <main className="p-10 text-ink-2">Opening the shot …</main>;
}

const NONE: Numbers = {};

function OpenShot({ handle }: { handle: ShotHandle }) {
  const { shot } = handle;
  // Only what the whole screen depends on: the pointer and the frame change far too often for that.
  const propId = useView((view) => view.propId);
  const readout = useView((view) => view.readout);
  const late = useView((view) => view.frame > shot.document.frames);
  const propIndex = Math.max(
    0,
    shot.document.props.findIndex((p) => p.id === propId),
  );
  const prop = shot.document.props[propIndex];
  useEffect(() => {
    if (prop && prop.id !== propId) useView.getState().set({ propId: prop.id });
    if (late) seek(shot.document.frames);
  }, [prop, propId, late, shot.document.frames]);

  const head = shot.head.id;
  // Pieces are numbered anew by every break.
  const broken = JSON.stringify([prop?.id, prop?.source, prop?.break]);
  useEffect(
    () => useView.getState().set({ pieces: [], hidden: [], alone: null, probed: null, weightId: '' }),
    [broken],
  );
  const sheet = useView((view) => view.sheet);
  // Of the open prop; of all only while one looks at the shot sheet.
  const measured = sheet ? shot.document.props : prop ? [prop] : [];
  const readoutQueries = useQueries({
    queries: measured.map((p) => ({
      queryKey: ['readout', shot.id, p.id, head],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        getJson<PropReadout>(`shots/${shot.id}/props/${p.id}/readout`, signal),
      placeholderData: (before: PropReadout | undefined) => before,
      retry: false,
    })),
  });
  const readouts = Object.fromEntries(
    measured.map((p, k) => [p.id, readoutQueries[k]?.error ? undefined : readoutQueries[k]?.data]),
  );
  const readoutError = readoutQueries[measured.findIndex((p) => p.id === prop?.id)]?.error?.message ?? null;
  const findings = useQuery({
    queryKey: ['checks', shot.id, head],
    queryFn: ({ signal }) => getJson<{ findings: Finding[] }>(`shots/${shot.id}/checks`, signal),
    placeholderData: keepPreviousData,
  });
  const tracks = useQuery({
    queryKey: ['tracks', shot.id, head],
    queryFn: ({ signal }) => getJson<Tracks>(`shots/${shot.id}/tracks`, signal),
    placeholderData: keepPreviousData,
  });
  const numbers = useQuery({
    queryKey: ['numbers', shot.id, head],
    queryFn: ({ signal }) => getJson<Numbers>(`shots/${shot.id}/numbers`, signal),
    placeholderData: keepPreviousData,
  });
  const { bake, rows, frames, startBake, cancelBake, showBake } = useBake(handle);
  const beside = useBeside(bake);
  const weight = useDrawnWeight(handle, prop, bake);

  const scope: ShotScope = {
    handle,
    prop,
    propIndex,
    bake,
    rows,
    frames,
    beside,
    readouts,
    readoutError,
    findings: findings.data?.findings ?? [],
    tracks: tracks.data ?? {},
    settled: handle.saving === 'saved' && !tracks.isPlaceholderData,
    numbers: numbers.data ?? NONE,
    weight,
    startBake,
    cancelBake,
    showBake,
  };
  return (
    <ShotContext value={scope}>
      <Keys />
      <div className="grid h-full min-h-0 grid-rows-[44px_56px_minmax(0,1fr)_150px]">
        <TopBar />
        <StagePath />
        <div
          className={`grid min-h-0 ${sheet ? 'grid-cols-[minmax(0,1fr)_400px]' : readout ? 'grid-cols-[320px_minmax(0,1fr)_256px]' : 'grid-cols-[320px_minmax(0,1fr)_36px]'}`}
        >
          {sheet ? <ShotSheet /> : <StageCard />}
          <DroppedFiles>
            <Viewport />
          </DroppedFiles>
          {sheet ? null : <Readout />}
        </div>
        <CueStrip />
      </div>
      <CommandPalette />
      <Shortcuts />
    </ShotContext>
  );
}

function Keys() {
  useShortcuts();
  return null;
}

/** After this many answers in a row that did not come, one is asked whether to go on. */
const PATIENCE = 5;

/** The newest bake of the shot: its state, its readout rows and its frames, kept up to date while it runs. */
function useBake(handle: ShotHandle) {
  const { shot, edit } = handle;
  const notify = useView((view) => view.notify);
  const [live, setLive] = useState<BakeState | null>(null);
  const [rows, setRows] = useState<ReadoutRow[]>([]);
  // The shot's own copy knows whether the bake is stale now; the polled one knows how far it is.
  const known = shot.bake;
  const bake = useMemo<BakeState | null>(() => {
    if (live && (!known || live.id === known.id))
      return known
        ? { ...live, stale: known.stale, differences: known.differences, trial: known.trial }
        : live;
    return live && known && live.id > known.id ? live : known;
  }, [live, known]);
  // Once the shot has another one, that is what is shown: an older one, if one has gone back to it.
  const newest = known?.id;
  useEffect(() => setLive((now) => (now?.id === newest ? now : null)), [newest]);
  const id = bake?.id;
  const [frames = null] = useFrames(id ? [{ id, done: bake?.done ?? 0 }] : []);

  useEffect(() => {
    if (!id) return;
    let stopped = false;
    let timer = 0;
    let have = 0;
    let failures = 0;
    let ran = false;
    setRows([]);
    const poll = async () => {
      let again = 1000;
      try {
        const state = await getJson<BakeState & { readout: ReadoutRow[] }>(`bakes/${id}?from=${have + 1}`);
        if (stopped) return;
        failures = 0;
        const { readout, ...rest } = state;
        if (state.done < have) {
          have = 0;
          setRows([]);
        } else if (readout.length > 0) {
          have += readout.length;
          setRows((old) => [...old, ...readout]);
        }
        setLive(rest);
        if (state.status === 'queued' || state.status === 'running') ran = true;
        if (state.status === 'queued') again = 150;
        else if (state.status === 'running') again = state.done < 3 ? 150 : 400;
        else {
          // Cues that are found in what was baked are found by storing the shot again; where they stand already, nothing changes.
          if (ran && state.status === 'done') edit((doc) => (doc.cues.some(isFound) ? { ...doc } : doc));
          if (state.status === 'failed')
            notify({ kind: 'error', title: 'The bake failed', detail: state.error ?? '' });
          return;
        }
      } catch (error) {
        if (stopped) return;
        failures++;
        if (failures > PATIENCE) {
          notify({
            kind: 'error',
            title: 'How far the bake has got is not known',
            detail: error instanceof Error ? error.message : '',
            actions: [
              {
                label: 'Look again',
                run: () => {
                  failures = 0;
                  void poll();
                },
              },
            ],
          });
          return;
        }
        again = 2000;
      }
      if (!stopped) timer = window.setTimeout(() => void poll(), again);
    };
    void poll();
    return () => {
      stopped = true;
      window.clearTimeout(timer);
    };
  }, [edit, id, notify]);

  const startBake = useCallback(() => {
    void handle
      .settled()
      .then(() => sendJson<BakeState>('POST', `shots/${shot.id}/bakes`))
      .then((started) => {
        setLive(started);
        seek(1);
        useView.getState().set({ stage: 'bake', playing: true });
        handle.reload();
      })
      .catch((error: unknown) => {
        const problem =
          error instanceof ProblemError
            ? error
            : new ProblemError(0, 'The bake did not start', String(error));
        notify({ kind: 'error', title: problem.title, detail: problem.message });
      });
  }, [handle, shot.id, notify]);
  const cancelBake = useCallback(() => {
    if (id) void sendJson<BakeState>('POST', `bakes/${id}/cancel`).then(setLive);
  }, [id]);

  const showBake = useCallback(
    (older: string) =>
      sendJson<BakeState>('POST', `bakes/${older}/bring-up`)
        .then((shown) => {
          setLive(shown);
          handle.reload();
        })
        .catch((error: unknown) =>
          notify({
            kind: 'error',
            title: 'That bake cannot be shown',
            detail: error instanceof Error ? error.message : '',
          }),
        ),
    [handle, notify],
  );

  return { bake, rows, frames, startBake, cancelBake, showBake };
}
