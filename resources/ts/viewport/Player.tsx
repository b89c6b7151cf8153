import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import { ShotContext } from '../shot/context';
import { showsBake } from '../shot/summary';
import { goesOn, within } from '../cues/span';
import { clock } from '../state/frame';
import { useView } from '../state/view';

/** Moves the frame on while playing, and draws when it changes. While a bake runs it loops over what is there. */
export function Player() {
  const { handle, frames } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const playing = useView((view) => view.playing);
  const invalidate = useThree((state) => state.invalidate);
  const have = frames?.have ?? 0;
  useEffect(() => invalidate(), [have, stage, invalidate]);
  useEffect(() => clock.follow(() => invalidate()), [invalidate]);
  useEffect(() => {
    if (!playing) return;
    let before = performance.now();
    let ask = 0;
    // What is not shown of the time that has passed.
    let rest = 0;
    const tick = (now: number) => {
      const view = useView.getState();
      const last =
        showsBake(view.stage) && frames && frames.have > 0
          ? Math.min(frames.have, handle.shot.document.frames)
          : handle.shot.document.frames;
      const step = ((now - before) / 1000) * handle.shot.document.fps * view.speed;
      before = now;
      let next = clock.now + rest + step;
      // Where frames are passed over anyway nobody sees what lies between two.
      rest = step >= 1 ? next - Math.floor(next) : 0;
      next -= rest;
      // Of a span only what is there already; what was left behind its end is begun anew.
      const span = within(view.span, last) ?? { from: 1, to: last };
      if (next < span.from) next = span.from;
      const { frame, ended } = goesOn(next, span, view.loop);
      clock.show(frame);
      if (ended) view.set({ playing: false });
      else ask = requestAnimationFrame(tick);
    };
    ask = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(ask);
      // Where it stopped, for everything that stood still meanwhile.
      useView.getState().set({ frame: Math.max(1, Math.floor(clock.now)) });
    };
  }, [playing, frames, handle.shot.document.frames, handle.shot.document.fps]);
  return null;
}
