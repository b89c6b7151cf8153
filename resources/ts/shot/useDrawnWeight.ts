import { useEffect, useState } from 'react';
import { chosen } from '../api/schema';
import type { BakeState, PropDocument } from '../api/types';
import type { ShotHandle } from '../state/useShot';
import { playsOtherwise } from './summary';
import { useView } from '../state/view';
import { WeightStore } from '../tracks/WeightStore';

/** Where the server has what a weight follows from: the newest bake that has ended. */
function seenAs(bake: BakeState | null, ended: boolean): string {
  if (bake && (bake.status === 'running' || bake.status === 'queued'))
    return 'Others as known before this bake.';
  if (!bake || !ended) return 'Others where their keys put them: bake to see them move.';
  return bake.stale ? 'Others as the last bake has them.' : 'Others as baked.';
}

/** The weight that is drawn: what it is called, and its values at all frames. */
export interface DrawnWeight {
  name: string;
  /** The mix by which the prop lets go, and no source alone or how far it is held. */
  releases: boolean;
  /** Where the things are that it goes by, if it goes by how they move. */
  seen: string | null;
  /** Props that are shown where the bake has them, since it goes by that. */
  follows: string[];
  store: WeightStore;
}

/** Props by whose motion any weight of a prop goes. */
function followed(prop: PropDocument | undefined): string[] {
  const stacks = [prop?.weight, ...(prop?.weights ?? [])].map((weight) => weight?.stack ?? []);
  return stacks.flat().flatMap((layer) => {
    const source = chosen(layer, 'source');
    const props = source.settings['props'];
    return source.has('seen') && Array.isArray(props) ? (props as string[]) : [];
  });
}

/** Whether any weight of a prop goes by how others move. */
export function goesByMotion(prop: PropDocument | undefined): boolean {
  return followed(prop).length > 0;
}

/** In Timing the weight of the open prop that is open, or one of its sources alone; elsewhere one that is asked for. */
export function useDrawnWeight(
  handle: ShotHandle,
  prop: PropDocument | undefined,
  bake: BakeState | null,
): DrawnWeight | null {
  const stage = useView((view) => view.stage);
  const weighing = useView((view) => (view.stage === 'motion' ? view.weighing : null));
  const chosen = useView((view) => view.alone);
  const open = useView((view) => view.weightId);
  const further = prop?.weights.find((each) => each.id === open);
  const stack = (further ?? prop?.weight)?.stack ?? [];
  const alone = stage === 'timing' && chosen !== null && chosen < stack.length ? chosen : null;
  const timing = stage === 'timing' && stack.length > 0;
  const { shot } = handle;
  const of = weighing ?? further?.id ?? 'release';
  const query = `?of=${of}${weighing === null && alone !== null ? `&layer=${alone}` : ''}`;
  const address =
    prop && (timing || weighing !== null) ? `shots/${shot.id}/props/${prop.id}/weights${query}` : null;
  const [store, setStore] = useState<WeightStore | null>(null);
  const frames = shot.document.frames;
  const head = shot.head.id;
  const byMotion = goesByMotion(prop);
  // What others did is known anew after each bake.
  const baked = byMotion && bake && bake.status === 'done' ? `${bake.id} ${bake.done}` : '';
  useEffect(() => {
    if (address === null) return;
    // Another revision may have other weights; what has not changed the server answers with a word.
    const made = new WeightStore(address, frames);
    setStore(made);
    return () => {
      made.close();
      setStore(null);
    };
  }, [address, frames, head, baked]);
  if (!store || address === null) return null;
  const name =
    weighing !== null ? 'held' : alone !== null ? `source ${alone + 1}` : (further?.name ?? 'weight');
  const ended = bake !== null && bake.done > 0 && (bake.status === 'done' || bake.status === 'failed');
  // In another time the frames are not those it went by.
  const follows = ended && byMotion && !playsOtherwise(shot.document) ? followed(prop) : [];
  const seen = byMotion ? seenAs(bake, ended) : null;
  return { name, releases: weighing === null && alone === null && !further, seen, follows, store };
}
