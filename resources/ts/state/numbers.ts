import type { Animatable } from '../api/types';
import { read, type Path } from './document';
import { keyFrame, valueNear } from './keys';

/** What keyed numbers of the document are at each frame, by JSON Pointer, as the server has them. */
export type Numbers = Record<string, number[]>;

interface Timed {
  cues: { id: string; frame: number }[];
}

/** A number of the document at a frame; a key that has just been put there counts before the server has heard of it. */
export function numberAt(numbers: Numbers, document: Timed, path: Path, frame: number): number {
  const value = read(document, path) as Animatable | undefined;
  if (value === undefined || typeof value === 'number') return value ?? 0;
  const here = value.keys.find((key) => keyFrame(key, document.cues) === frame);
  if (here) return here.value;
  const known = numbers[`/${path.join('/')}`];
  return (
    known?.[Math.min(known.length, Math.max(1, Math.round(frame))) - 1] ??
    valueNear(value, frame, document.cues)
  );
}

/** The same between two frames. */
export function numberBetween(
  numbers: Numbers,
  document: Timed & { frames: number },
  path: Path,
  frame: number,
): number {
  const before = Math.floor(frame);
  const was = numberAt(numbers, document, path, before);
  const is = numberAt(numbers, document, path, Math.min(before + 1, document.frames));
  return was + (is - was) * (frame - before);
}
