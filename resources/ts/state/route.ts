import { useEffect } from 'react';
import { useRoute } from 'wouter';
import { navigate } from 'wouter/use-browser-location';
import type { Stage } from '../api/types';
import { useView } from './view';

const STAGES: Stage[] = ['prop', 'break', 'timing', 'motion', 'bake', 'handoff'];

export const go = (path: string): void => navigate(path);

/** The shot in the address, or null for the yard. */
export function useShotId(): string | null {
  const [, params] = useRoute('/shots/:id');
  return params?.id ?? null;
}

/** Whether the address is that of the page of what takes room. */
export function useIsRoom(): boolean {
  const [is] = useRoute('/room');
  return is;
}

/** What lives in the address, so that a link shows what one sees. */
const SEEN = ['stage', 'propId', 'frame', 'beside'] as const;

/** Stage, prop, frame and what is compared live in the address. */
export function useAddress(shotId: string): void {
  useEffect(() => {
    const query = new URLSearchParams(location.search);
    const stage = query.get('stage') as Stage;
    useView.getState().set({
      stage: STAGES.includes(stage) ? stage : 'prop',
      propId: query.get('prop') ?? '',
      frame: Math.max(1, Math.round(Number(query.get('frame')) || 1)),
      beside: query.get('beside')?.split(',') ?? [],
      playing: false,
    });
    let timer = 0;
    const stop = useView.subscribe((view, before) => {
      if (SEEN.every((what) => view[what] === before[what])) return;
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        const beside = view.beside.length > 0 ? `&beside=${view.beside.join()}` : '';
        navigate(
          `/shots/${shotId}?stage=${view.stage}&prop=${view.propId}&frame=${Math.round(view.frame)}${beside}`,
          { replace: true },
        );
      }, 200);
    });
    return () => {
      window.clearTimeout(timer);
      stop();
    };
  }, [shotId]);
}
