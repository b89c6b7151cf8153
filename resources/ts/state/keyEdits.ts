import { idleKinds } from '../api/schema';
import type { Animatable, ShotDocument } from '../api/types';
import { read, write, type Path } from './document';
import { keyFrame, movedTo, type Key } from './keys';

/** A key of some number of the document. */
export interface KeyRef {
  path: Path;
  index: number;
  frame: number;
}

/** Keys that were copied: of each number, their frames from the first of all of them. */
export type Clip = { path: Path; keys: { at: number; key: Key }[] }[];

type Keyed = Exclude<Animatable, number>;

function isKeyed(value: unknown): value is Keyed {
  return typeof value === 'object' && value !== null && Array.isArray((value as { keys?: unknown }).keys);
}

/** All keys below a path, those of one number after those of another; not those of kinds that are not chosen, which do nothing. */
export function keysBelow(document: ShotDocument, base: Path): KeyRef[] {
  const found: KeyRef[] = [];
  const walk = (value: unknown, path: Path) => {
    if (isKeyed(value))
      value.keys.forEach((key, index) => found.push({ path, index, frame: keyFrame(key, document.cues) }));
    else if (typeof value === 'object' && value !== null) {
      const idle = Array.isArray(value) ? [] : idleKinds(path, value);
      for (const [name, inner] of Object.entries(value))
        if (!idle.includes(name)) walk(inner, [...path, Array.isArray(value) ? Number(name) : name]);
    }
  };
  walk(read(document, base), base);
  return found;
}

const same = (a: Path, b: Path) => a.join('/') === b.join('/');

/** The chosen keys of each number, by number. */
function byNumber(refs: KeyRef[]): { path: Path; chosen: Set<number> }[] {
  const numbers: { path: Path; chosen: Set<number> }[] = [];
  for (const { path, index } of refs) {
    const known = numbers.find((number) => same(number.path, path));
    if (known) known.chosen.add(index);
    else numbers.push({ path, chosen: new Set([index]) });
  }
  return numbers;
}

/** Puts the chosen keys at other whole frames; a key that stands where one comes to is pushed out. */
function placed(document: ShotDocument, refs: KeyRef[], to: (frame: number) => number): ShotDocument {
  return byNumber(refs).reduce((doc, { path, chosen }) => {
    const value = read(doc, path);
    if (!isKeyed(value)) return doc;
    const moved = new Map<number, Key>();
    for (const index of chosen) {
      const key = value.keys[index];
      if (!key) continue;
      const frame = Math.round(to(keyFrame(key, doc.cues)));
      moved.set(frame, movedTo(key, frame, doc.cues));
    }
    const rest = value.keys.filter((key, index) => !chosen.has(index) && !moved.has(keyFrame(key, doc.cues)));
    return write(doc, path, { ...value, keys: [...rest, ...moved.values()] });
  }, document);
}

export const moveKeys = (document: ShotDocument, refs: KeyRef[], by: number): ShotDocument =>
  by === 0 ? document : placed(document, refs, (frame) => frame + by);

/** Further apart or closer together, about the first of them. */
export function stretchKeys(document: ShotDocument, refs: KeyRef[], by: number): ShotDocument {
  const first = Math.min(...refs.map((ref) => ref.frame));
  return placed(document, refs, (frame) => first + (frame - first) * by);
}

/** The other way round in time: the last first. Each stretch between two keys keeps its ease, turned round with it. */
export function mirrorKeys(document: ShotDocument, refs: KeyRef[]): ShotDocument {
  const frames = refs.map((ref) => ref.frame);
  const sum = Math.min(...frames) + Math.max(...frames);
  const turned: Partial<Record<string, Key['ease']>> = { in: 'out', out: 'in' };
  const mirrored = byNumber(refs).reduce((doc, { path, chosen }) => {
    const value = read(doc, path);
    if (!isKeyed(value)) return doc;
    const order = [...chosen].sort(
      (a, b) => keyFrame(value.keys[a] as Key, doc.cues) - keyFrame(value.keys[b] as Key, doc.cues),
    );
    // The ease on to the next key becomes that of the next one.
    const keys = value.keys.map((key, index) => {
      const before = value.keys[order[order.indexOf(index) - 1] ?? -1];
      if (!chosen.has(index) || !before) return key;
      const plain = Object.fromEntries(Object.entries(key).filter(([name]) => name !== 'handles'));
      const [first, second] = before.handles ?? [];
      return {
        ...plain,
        ease: turned[before.ease] ?? before.ease,
        ...(first && second
          ? {
              handles: [
                [1 - (second[0] ?? 0), 1 - (second[1] ?? 0)],
                [1 - (first[0] ?? 0), 1 - (first[1] ?? 0)],
              ],
            }
          : {}),
      } as unknown as Key;
    });
    return write(doc, path, { ...value, keys });
  }, document);
  return placed(mirrored, refs, (frame) => sum - frame);
}

/** A number of which no key is left keeps the value of the first that it had. */
export function deleteKeys(document: ShotDocument, refs: KeyRef[]): ShotDocument {
  return byNumber(refs).reduce((doc, { path, chosen }) => {
    const value = read(doc, path);
    if (!isKeyed(value)) return doc;
    const keys = value.keys.filter((_, index) => !chosen.has(index));
    return write(doc, path, keys.length > 0 ? { ...value, keys } : (value.keys[0]?.value ?? 0));
  }, document);
}

export function copyKeys(document: ShotDocument, refs: KeyRef[]): Clip {
  const first = Math.min(...refs.map((ref) => ref.frame));
  return byNumber(refs).map(({ path, chosen }) => {
    const value = read(document, path);
    return {
      path,
      keys: !isKeyed(value)
        ? []
        : value.keys
            .filter((_, index) => chosen.has(index))
            .map((key) => ({ at: keyFrame(key, document.cues) - first, key })),
    };
  });
}

/** The first of what was copied comes to a frame; numbers that are no longer there are left out. */
export function pasteKeys(document: ShotDocument, clip: Clip, frame: number): ShotDocument {
  return clip.reduce((doc, { path, keys }) => {
    const value = read(doc, path);
    if (typeof value !== 'number' && !isKeyed(value)) return doc;
    const fresh = keys.map(({ at: after, key }) => {
      // Copied, it stands by itself.
      const plain = Object.fromEntries(
        Object.entries(key).filter(([name]) => name !== 'cue' && name !== 'offset'),
      );
      return { ...plain, frame: frame + after } as unknown as Key;
    });
    const taken = new Set(fresh.map((key) => key.frame));
    const rest = isKeyed(value) ? value.keys.filter((key) => !taken.has(keyFrame(key, doc.cues))) : [];
    return write(doc, path, { ...(isKeyed(value) ? value : {}), keys: [...rest, ...fresh] });
  }, document);
}
