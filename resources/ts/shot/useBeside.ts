import { useQueries } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { getJson } from '../api/client';
import type { BakeState, ReadoutRow } from '../api/types';
import { useView } from '../state/view';
import type { FrameStore } from '../tracks/FrameStore';
import { useFrames } from '../tracks/useFrames';

/** Another bake of the shot, to compare the one that is shown with. */
export interface Beside {
  bake: BakeState;
  rows: ReadoutRow[];
  frames: FrameStore;
  /** What the one that is shown has otherwise, in words. */
  differences: string[];
}

/** What a bake is called beside others. */
export function bakeName({ trial, revision }: { trial: string | null; revision: number }): string {
  return trial ?? `Revision ${revision}`;
}

/** Within a sentence. */
export const inText = (name: string) => name.charAt(0).toLowerCase() + name.slice(1);

/** How often a bake that still runs is asked how far it is, ms. */
const AGAIN = 500;

export function useBeside(shown: BakeState | null): Beside[] {
  const asked = useView((view) => view.beside);
  const open = useView((view) => view.stage === 'bake');
  const notify = useView((view) => view.notify);
  const ids = open && shown ? asked.filter((id) => id !== shown.id) : [];
  const states = useQueries({
    queries: ids.map((id) => ({
      queryKey: ['beside', id],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        getJson<BakeState & { readout: ReadoutRow[] }>(`bakes/${id}?from=1`, signal),
      refetchInterval: ({ state: { data } }: { state: { data?: BakeState } }) =>
        data?.status === 'running' || data?.status === 'queued' ? AGAIN : (false as const),
      retry: false,
    })),
  });
  const changes = useQueries({
    queries: ids.map((id) => ({
      queryKey: ['differences', id, shown?.id],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        getJson<{ differences: string[] }>(`bakes/${shown?.id}/differences?from=${id}`, signal),
      retry: false,
    })),
  });
  const wrong = ids.findIndex((_, k) => states[k]?.error ?? changes[k]?.error);
  const lost = ids[wrong];
  const trouble = (states[wrong]?.error ?? changes[wrong]?.error)?.message;
  useEffect(() => {
    if (lost === undefined) return;
    const { beside, set } = useView.getState();
    set({ beside: beside.filter((id) => id !== lost) });
    notify({ kind: 'error', title: 'It cannot be compared with that bake', detail: trouble ?? '' });
  }, [lost, trouble, notify]);
  const baked = ids.map((id, k) => ({ id, done: states[k]?.data?.done ?? 0 }));
  const frames = useFrames(baked);
  const known = ids.map(
    (id, k) => `${id} ${states[k]?.dataUpdatedAt} ${changes[k]?.dataUpdatedAt} ${frames[k] !== null}`,
  );
  // The same as long as nothing of it has changed: plots are drawn anew for it.
  return useMemo(
    () =>
      ids.flatMap((_, k) => {
        const [state, store] = [states[k]?.data, frames[k]];
        if (!state || !store) return [];
        const { readout, ...bake } = state;
        return [{ bake, rows: readout, frames: store, differences: changes[k]?.data?.differences ?? [] }];
      }),
    [known.join()], // eslint-disable-line react-hooks/exhaustive-deps
  );
}
