/** Frames that are played again and again; both are shown. */
export interface Span {
  from: number;
  to: number;
}

/** As a shot of so many frames has it; null: none of it is left, or it is all of it. */
export function within(span: Span | null, last: number): Span | null {
  if (!span || span.from >= last || (span.from <= 1 && span.to >= last)) return null;
  return { from: Math.max(1, span.from), to: Math.min(last, span.to) };
}

/** Between two frames, whichever comes first; null: they are the same. */
export function between(one: number, other: number): Span | null {
  return one === other ? null : { from: Math.min(one, other), to: Math.max(one, other) };
}

/** Where playing goes on, from a time that may lie past the end: round again, or it ends there. */
export function goesOn(next: number, { from, to }: Span, again: boolean): { frame: number; ended: boolean } {
  if (next < to + 1 && (again || next < to)) return { frame: Math.min(next, to), ended: false };
  return again
    ? { frame: from + ((next - from) % (to - from + 1)), ended: false }
    : { frame: to, ended: true };
}
