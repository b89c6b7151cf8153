/** The frames that the strip shows; the ends need not be whole. */
export interface Range {
  from: number;
  to: number;
}

/** Closer one cannot look: so many frames. */
const LEAST = 8;

export const whole = (last: number): Range => ({ from: 1, to: Math.max(2, last) });

/** As near to a range as fits between the first frame and the last. */
function fitted({ from, to }: Range, last: number): Range {
  const all = whole(last);
  const length = Math.min(all.to - all.from, Math.max(Math.min(LEAST, all.to - all.from), to - from));
  const start = Math.min(all.to - length, Math.max(all.from, from));
  return { from: start, to: start + length };
}

/** So many times as close; the frame one points at stays where it is. */
export function zoomed(range: Range, times: number, about: number, last: number): Range {
  const length = Math.min(last - 1, Math.max(Math.min(LEAST, last - 1), (range.to - range.from) / times));
  const share = (about - range.from) / (range.to - range.from);
  const from = about - share * length;
  return fitted({ from, to: from + length }, last);
}

export function panned(range: Range, frames: number, last: number): Range {
  return fitted({ from: range.from + frames, to: range.to + frames }, last);
}

/** With a frame in it: a page on or back when it has left. */
export function following(range: Range, frame: number, last: number): Range {
  if (frame >= range.from && frame <= range.to) return range;
  const length = range.to - range.from;
  return fitted(
    frame > range.to ? { from: frame, to: frame + length } : { from: frame - length, to: frame },
    last,
  );
}
