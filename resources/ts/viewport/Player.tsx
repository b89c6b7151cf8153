import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import { ShotContext } from '../shot/context';
import { showsBake } from '../shot/summary';
import { useView } from '../state/view';

/** Moves the frame on while playing, and draws when it changes. */
export function Player() {
  const { handle, frames } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const frame = useView((view) => view.frame);
  const playing = useView((view) => view.playing);
  const invalidate = useThree((state) => state.invalidate);
  const have = frames?.have ?? 0;
  useEffect(() => invalidate(), [frame, have, stage, invalidate]);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let ask = 0;
    const tick = (now: number) => {
      const view = useView.getState();
      const last =
        showsBake(view.stage) && frames && frames.have > 0
          ? Math.min(frames.have, handle.shot.document.frames)
          : handle.shot.document.frames;
      let next = view.frame + ((now - before) / 1000) * handle.shot.document.fps * view.speed;
      before = now;
      if (next >= last + 1) next = view.loop ? 1 + ((next - 1) % last) : last;
      const ended = !view.loop && next >= last;
      view.set({ frame: Math.min(next, last), playing: !ended });
      if (!ended) ask = requestAnimationFrame(tick);
    };
    ask = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(ask);
  }, [playing, frames, handle.shot.document.frames, handle.shot.document.fps]);
  return null;
}
