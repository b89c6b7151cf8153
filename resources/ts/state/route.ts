import { useEffect, useState } from 'react';
import type { Stage } from '../api/types';
import { useView } from './view';

const STAGES: Stage[] = ['prop', 'break', 'timing', 'motion', 'bake', 'handoff'];

export function go(path: string): void {
  history.pushState(null, '', path);
  window.dispatchEvent(new PopStateEvent('popstate'));
}

/** The shot in the address, or null for the yard. */
export function useShotId(): string | null {
  const read = () => /^\/shots\/([0-9a-z]+)/i.exec(location.pathname)?.[1] ?? null;
  const [id, setId] = useState(read);
  useEffect(() => {
    const changed = () => setId(read());
    window.addEventListener('popstate', changed);
    return () => window.removeEventListener('popstate', changed);
  }, []);
  return id;
}

/** Stage, prop and frame live in the address, so a link shows what one sees. */
export function useAddress(shotId: string): void {
  useEffect(() => {
    const query = new URLSearchParams(location.search);
    const stage = query.get('stage') as Stage;
    useView.getState().set({
      stage: STAGES.includes(stage) ? stage : 'prop',
      propId: query.get('prop') ?? '',
      frame: Math.max(1, Math.round(Number(query.get('frame')) || 1)),
      playing: false,
    });
    let timer = 0;
    const stop = useView.subscribe((view, before) => {
      if (view.stage === before.stage && view.propId === before.propId && view.frame === before.frame) return;
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        history.replaceState(
          null,
          '',
          `/shots/${shotId}?stage=${view.stage}&prop=${view.propId}&frame=${Math.round(view.frame)}`,
        );
      }, 200);
    });
    return () => {
      window.clearTimeout(timer);
      stop();
    };
  }, [shotId]);
}
