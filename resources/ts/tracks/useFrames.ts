import { useEffect, useState } from 'react';
import { useView } from '../state/view';
import { FrameStore } from './FrameStore';

interface Baked {
  id: string;
  done: number;
}

/** The frames of each bake, fetched as they are there; null before the first. */
export function useFrames(bakes: readonly Baked[]): (FrameStore | null)[] {
  const notify = useView((view) => view.notify);
  const [stores] = useState(() => new Map<string, FrameStore>());
  const [version, setVersion] = useState(0);
  const wanted = bakes.map(({ id, done }) => `${id} ${done}`).join();
  useEffect(() => {
    const all = new Map(bakes.filter(({ done }) => done > 0).map(({ id, done }) => [id, done]));
    for (const id of stores.keys()) if (!all.has(id)) stores.delete(id);
    let stopped = false;
    const more = async (frames: FrameStore, done: number) => {
      while (!stopped && frames.have < done) {
        const came = await frames.fetchTo(done).catch((error: unknown) => {
          notify({
            kind: 'error',
            title: 'The frames cannot be shown',
            detail: error instanceof Error ? error.message : '',
          });
          return false;
        });
        if (!came) break;
        setVersion((n) => n + 1);
      }
    };
    for (const [id, done] of all) {
      const known = stores.get(id);
      const frames = known ?? new FrameStore(id);
      stores.set(id, frames);
      if (!known) setVersion((n) => n + 1);
      void more(frames, done);
    }
    return () => {
      stopped = true;
    };
    // What is wanted says all that matters of the bakes.
  }, [wanted, stores, version, notify]); // eslint-disable-line react-hooks/exhaustive-deps
  return bakes.map(({ id, done }) => (done > 0 ? (stores.get(id) ?? null) : null));
}
