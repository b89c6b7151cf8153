/**
 * How a kind of track is read: numbers and bytes of a part (0 bytes: it is always whole), and the reading of parts. Records are
 * aligned, and every machine that shows this is little-endian: numbers are read in place, many times as fast as one by one.
 */
export interface Codec {
  numbers: number;
  size: number;
  /** Reads parts that lie one after the other. */
  read: (bytes: Uint8Array, count: number, out: Float32Array) => void;
}

/** Steps of a coordinate, and of a number of a turn, on each side of 0. */
export const PLACES = 1048575;
export const TURNS = 131071;
const UNIT = 1 / (Math.SQRT2 * TURNS);

/** Place (three) and turn (x, y, z, w). */
const pose: Codec = {
  numbers: 7,
  size: 16,
  read: (bytes, count, out) => {
    const words = new Uint32Array(bytes.buffer, bytes.byteOffset, 4 * count);
    for (let k = 0; k < count; k++) {
      const at = 4 * k;
      const o = 7 * k;
      const [yz, xy, bc, ab] = [words[at], words[at + 1], words[at + 2], words[at + 3]] as Four;
      const step = 2 ** ((ab >>> 24) - 147);
      out[o] = ((xy >>> 10) - PLACES) * step;
      out[o + 1] = (((xy & 0x3ff) << 11) + (yz >>> 21) - PLACES) * step;
      out[o + 2] = ((yz & 0x1fffff) - PLACES) * step;
      const a = (((ab >>> 4) & 0x3ffff) - TURNS) * UNIT;
      const b = (((ab & 0xf) << 14) + (bc >>> 18) - TURNS) * UNIT;
      const c = ((bc & 0x3ffff) - TURNS) * UNIT;
      const rest = Math.sqrt(Math.max(0, 1 - a * a - b * b - c * c));
      // Which one is the largest and was left out.
      const largest = (ab >>> 22) & 3;
      out[o + 3] = largest === 0 ? rest : a;
      out[o + 4] = largest === 1 ? rest : largest === 0 ? a : b;
      out[o + 5] = largest === 2 ? rest : largest === 3 ? c : b;
      out[o + 6] = largest === 3 ? rest : c;
    }
  },
};

const singles = (numbers: number): Codec => ({
  numbers,
  size: 4 * numbers,
  read: (bytes, count, out) => {
    out.set(new Float32Array(bytes.buffer, bytes.byteOffset, numbers * count));
  },
});

const byte = (scale: number): Codec => ({
  numbers: 1,
  size: 1,
  read: (bytes, count, out) => {
    for (let k = 0; k < count; k++) out[k] = (bytes[k] as number) * scale;
  },
});

/** Bytes of a frame's bounds, before its vertices. */
export const BOUNDS = 24;

type Three = [number, number, number];
type Four = [number, number, number, number];

/** Where the steps of a frame's vertices count from, and how far one of them is. */
export function boundsOf(bytes: Uint8Array): { from: Three; span: Three } {
  const [x0 = 0, y0 = 0, z0 = 0, x1 = 0, y1 = 0, z1 = 0] = new Float32Array(
    bytes.buffer,
    bytes.byteOffset,
    6,
  );
  return { from: [x0, y0, z0], span: [(x1 - x0) / 65535, (y1 - y0) / 65535, (z1 - z0) / 65535] };
}

/** 16 bits a number between the frame's bounds. */
const vertices: Codec = {
  numbers: 3,
  size: 0,
  read: (bytes, count, out) => {
    const {
      from: [x0, y0, z0],
      span: [sx, sy, sz],
    } = boundsOf(bytes);
    const steps = new Uint16Array(bytes.buffer, bytes.byteOffset + BOUNDS, 3 * count);
    for (let k = 0; k < steps.length; k += 3) {
      out[k] = x0 + (steps[k] as number) * sx;
      out[k + 1] = y0 + (steps[k + 1] as number) * sy;
      out[k + 2] = z0 + (steps[k + 2] as number) * sz;
    }
  },
};

/** One reader per kind of track. */
const CODECS: Record<string, Codec> = {
  pose,
  scale: singles(3),
  ends: singles(7),
  vertices,
  weight: byte(1 / 255),
  life: byte(1 / 255),
  flags: byte(1),
};

export function codecOf(kind: string): Codec {
  const codec = CODECS[kind];
  if (!codec) throw new Error(`Nobody knows how to read a track of “${kind}”. Reload the page.`);
  return codec;
}

/** The numbers of a track whose bytes are whole. */
export function decode(kind: string, count: number, bytes: Uint8Array): Float32Array {
  const codec = codecOf(kind);
  const out = new Float32Array(codec.numbers * count);
  if (count > 0) codec.read(bytes, count, out);
  return out;
}

/** A track as it is in a frame that has only the parts that differ from its base. */
export function onto(kind: string, base: Uint8Array, parts: Uint8Array): Uint8Array {
  const { size } = codecOf(kind);
  const whole = base.slice();
  const { buffer, byteOffset } = parts;
  const [changed = 0] = new Uint32Array(buffer, byteOffset, 1);
  const gaps = parts.subarray(4 + changed * size);
  if (size % 4 === 0)
    scatter(
      new Uint32Array(whole.buffer),
      new Uint32Array(buffer, byteOffset + 4, (changed * size) / 4),
      size / 4,
      gaps,
    );
  else scatter(whole, parts.subarray(4, 4 + changed * size), size, gaps);
  return whole;
}

/** Parts that lie one after the other go to their places; gaps are how many others lie before each, 255 and what follows it added up. */
function scatter<Numbers extends Uint8Array | Uint32Array>(
  into: Numbers,
  parts: Numbers,
  size: number,
  gaps: Uint8Array,
): void {
  for (let to = 0, from = 0, gap = 0; from < parts.length; gap++) {
    to += size * (gaps[gap] as number);
    if (gaps[gap] === 255) continue;
    for (const end = from + size; from < end; from++, to++) into[to] = parts[from] as number;
  }
}
