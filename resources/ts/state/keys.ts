import type { Animatable } from '../api/types';

export type Key = Exclude<Animatable, number>['keys'][number];
type Cue = { id: string; frame: number };

/** The frame a key stands at: its own, or its cue's plus its offset. */
export function keyFrame(key: Key, cues: Cue[]): number {
  return key.cue
    ? (cues.find((cue) => cue.id === key.cue)?.frame ?? 1) + (key.offset ?? 0)
    : (key.frame ?? 1);
}

/** A key at another frame: one that hangs on a cue stays there, further off. */
export function movedTo(key: Key, frame: number, cues: Cue[]): Key {
  return key.cue
    ? { ...key, offset: frame - (cues.find((cue) => cue.id === key.cue)?.frame ?? 1) }
    : { ...key, frame };
}

/** In the order of time. */
export function sortedKeys(value: Animatable, cues: Cue[]): Key[] {
  return typeof value === 'number'
    ? []
    : [...value.keys].sort((a, b) => keyFrame(a, cues) - keyFrame(b, cues));
}

/** The value to show in a form: between keys the server knows best, so it is that of the key before. */
export function valueNear(value: Animatable, frame: number, cues: Cue[]): number {
  if (typeof value === 'number') return value;
  const sorted = sortedKeys(value, cues);
  return (sorted.findLast((key) => keyFrame(key, cues) <= frame) ?? sorted[0])?.value ?? 0;
}

/** A keyed number with another value at a frame: the key that stands there keeps its ease and its cue, or a new one is put. */
export function withValueAt(value: Animatable, frame: number, number: number, cues: Cue[]): Animatable {
  if (typeof value === 'number') return number;
  const here = value.keys.findIndex((key) => keyFrame(key, cues) === frame);
  if (here >= 0)
    return { ...value, keys: value.keys.map((key, k) => (k === here ? { ...key, value: number } : key)) };
  const before = sortedKeys(value, cues).findLast((key) => keyFrame(key, cues) < frame);
  return {
    ...value,
    keys: [...value.keys, { frame, value: number, ease: before?.ease ?? 'smooth' } as unknown as Key],
  };
}
