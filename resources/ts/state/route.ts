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
        navigate(`/shots/${shotId}?stage=${view.stage}&prop=${view.propId}&frame=${Math.round(view.frame)}`, {
          replace: true,
        });
      }, 200);
    });
    return () => {
      window.clearTimeout(timer);
      stop();
    };
  }, [shotId]);
}
