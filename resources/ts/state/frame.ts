import { useView } from './view';

type Listener = (frame: number) => void;

/**
 * The frame that is shown right now, between two whole ones while it plays. It is read by what draws at frame rate: the
 * picture, the strip's cursor, the plots. It never goes through React; the view's own frame is where one stopped last.
 */
class Clock {
  now = 1;
  private readonly listeners = new Set<Listener>();

  show(frame: number): void {
    if (frame === this.now) return;
    this.now = frame;
    this.listeners.forEach((listener) => listener(frame));
  }

  /** Calls at each change, and once now. */
  follow(listener: Listener): () => void {
    this.listeners.add(listener);
    listener(this.now);
    return () => {
      this.listeners.delete(listener);
    };
  }
}

export const clock = new Clock();
useView.subscribe((view, before) => {
  if (view.frame !== before.frame) clock.show(view.frame);
});

/** Stops at a frame, wherever it was. */
export function seek(frame: number): void {
  clock.show(frame);
  useView.getState().set({ frame, playing: false });
}

/** The whole frame one stopped at, for what is drawn by React. While the shot plays it stands still. */
export function useFrame(follow = true): number {
  return useView((view) => (follow ? Math.round(view.frame) : 1));
}
