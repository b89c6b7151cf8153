import { PARTS, trackOf } from './format';

/** How a kind of track is read: numbers of a part, bytes of a part (0: it is always whole), and the reading of some parts. */
export interface Codec {
  numbers: number;
  size: number;
  /** Reads part k of the bytes into part `to` of the numbers. */
  read: (bytes: DataView, k: number, out: Float32Array, to: number) => void;
  /** Of kinds that are always whole. */
  whole?: (bytes: DataView, out: Float32Array) => void;
}

const STEPS = 524287;
const UNIT = 1 / (Math.SQRT2 * STEPS);

/** Place (three) and turn (x, y, z, w). */
const pose: Codec = {
  numbers: 7,
  size: 20,
  read: (bytes, k, out, to) => {
    const at = 20 * k;
    const o = 7 * to;
    out[o] = bytes.getFloat32(at, true);
    out[o + 1] = bytes.getFloat32(at + 4, true);
    out[o + 2] = bytes.getFloat32(at + 8, true);
    const low = bytes.getUint32(at + 12, true);
    const high = bytes.getUint32(at + 16, true);
    const a = (((high >>> 8) & 0xfffff) - STEPS) * UNIT;
    const b = (((high & 0xff) << 12) + (low >>> 20) - STEPS) * UNIT;
    const c = ((low & 0xfffff) - STEPS) * UNIT;
    const rest = Math.sqrt(Math.max(0, 1 - a * a - b * b - c * c));
    // Which one is the largest and was left out.
    const largest = high >>> 28;
    out[o + 3] = largest === 0 ? rest : a;
    out[o + 4] = largest === 1 ? rest : largest === 0 ? a : b;
    out[o + 5] = largest === 2 ? rest : largest === 3 ? c : b;
    out[o + 6] = largest === 3 ? rest : c;
  },
};

const singles = (numbers: number): Codec => ({
  numbers,
  size: 4 * numbers,
  read: (bytes, k, out, to) => {
    for (let n = 0; n < numbers; n++) out[numbers * to + n] = bytes.getFloat32(4 * (numbers * k + n), true);
  },
});

const byte = (scale: number): Codec => ({
  numbers: 1,
  size: 1,
  read: (bytes, k, out, to) => {
    out[to] = bytes.getUint8(k) * scale;
  },
});

/** 16 bits a number between the frame's bounds. */
const vertices: Codec = {
  numbers: 3,
  size: 0,
  read: () => undefined,
  whole: (bytes, out) => {
    const [x0, y0, z0, x1, y1, z1] = Array.from({ length: 6 }, (_, k) => bytes.getFloat32(4 * k, true)) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const [sx, sy, sz] = [(x1 - x0) / 65535, (y1 - y0) / 65535, (z1 - z0) / 65535];
    // Records are aligned, and every machine that shows this is little-endian: read in place, many times as fast.
    const steps = new Uint16Array(bytes.buffer, bytes.byteOffset + 24, out.length);
    for (let k = 0; k < out.length; k += 3) {
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

/** The numbers of a track in a record, and in the record in which it is whole where it is not whole itself. */
export function decode(
  kind: string,
  count: number,
  track: ReturnType<typeof trackOf>,
  base: ReturnType<typeof trackOf>,
): Float32Array {
  const codec = codecOf(kind);
  const out = new Float32Array(codec.numbers * count);
  if (count === 0) return out;
  const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const whole = view(base.bytes);
  if (codec.whole) codec.whole(whole, out);
  else for (let k = 0; k < count; k++) codec.read(whole, k, out, k);
  if (track.mode === PARTS) {
    const parts = view(track.bytes);
    const changed = parts.getUint32(0, true);
    const data = view(track.bytes.subarray(4 + 4 * changed));
    for (let k = 0; k < changed; k++) codec.read(data, k, out, parts.getUint32(4 + 4 * k, true));
  }
  return out;
}
