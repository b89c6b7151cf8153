import { useContext, useEffect, useRef, useState } from 'react';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { backdropIn, paintBackdrop, pictureAt, picturesFrom } from './backdrop';
import { Plates } from './plates';

/** Pictures are looked at no wider than this, and fetched so many frames ahead. */
const WIDEST = 1600;
const AHEAD = 12;

/** Those that are seen in the page. */
export const seenPlates = new Plates(WIDEST);

/** What is behind the shot. It goes by the clock and not through React, as what stands before it does. */
export function Behind({ through }: { through: boolean }) {
  const { document } = useContext(ShotContext).handle.shot;
  const { backdrop } = document;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => () => seenPlates.close(), []);
  useEffect(() => {
    const own = canvas.current;
    const paper = own?.getContext('2d');
    if (!own || !paper) return;
    let drawn: string | null = '';
    let left = false;
    const draw = () => {
      if (left) return;
      const asset = pictureAt(backdrop, clock.now);
      if (asset === drawn) return;
      const picture = asset === null ? null : seenPlates.peek(asset);
      if (asset !== null && !picture) {
        // Until it is there one sees the last.
        seenPlates.ready(asset).then(draw, (error: unknown) => {
          if (!left) setTrouble(error instanceof Error ? error.message : 'It could not be read.');
        });
        return;
      }
      drawn = asset;
      paper.clearRect(0, 0, own.width, own.height);
      const over = backdropIn(document, through, own);
      if (over) paintBackdrop(paper, backdrop, picture, over);
      own.dataset.picture = asset ?? '';
      for (const next of picturesFrom(backdrop, clock.now, AHEAD)) seenPlates.ready(next).catch(() => null);
    };
    const fit = new ResizeObserver(() => {
      own.width = Math.round(own.clientWidth * window.devicePixelRatio);
      own.height = Math.round(own.clientHeight * window.devicePixelRatio);
      drawn = '';
      draw();
    });
    fit.observe(own);
    const stop = clock.follow(draw);
    return () => {
      left = true;
      setTrouble('');
      stop();
      fit.disconnect();
    };
  }, [document, backdrop, through]);
  return (
    <>
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" data-testid="backdrop" />
      {trouble ? (
        <p
          role="alert"
          className="absolute bottom-3 left-1/2 z-10 max-w-[60%] -translate-x-1/2 rounded-md border border-error bg-card/90 px-2 py-1 text-[12px] text-error"
        >
          The picture behind the shot is not there: {trouble}
        </p>
      ) : null}
    </>
  );
}
