/** The frames file as it comes from the server; byte for byte in docs/frames.md. */
export interface Track {
  prop: string;
  kind: string;
  count: number;
}

export interface Manifest {
  fps: number;
  frames: number;
  hash: string;
  readout: string[];
  tracks: Track[];
}

/** What a track is in a record: the same as in its base, whole, or the parts that differ from it. */
export const SAME = 0;
export const WHOLE = 1;
export const PARTS = 2;

const VERSION = 3;
const FIXED = 16;
const HEAD = 24;
const ENTRY = 16;

/** The manifest, or how many bytes more are needed to read it. */
export function readManifest(bytes: Uint8Array): Manifest | number {
  if (bytes.length < FIXED) return FIXED - bytes.length;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const text = new TextDecoder();
  if (text.decode(bytes.subarray(0, 8)) !== 'YBFRAMES' || view.getUint32(8, true) !== VERSION)
    throw new Error('These frames are of another version. Bake again to see them.');
  const length = view.getUint32(12, true);
  if (bytes.length < FIXED + length) return FIXED + length - bytes.length;
  return JSON.parse(text.decode(bytes.subarray(FIXED, FIXED + length))) as Manifest;
}

/** Whether a record is all there and undamaged, and of the frame it should be. */
export function isSound(record: Uint8Array, frame: number): boolean {
  if (record.length < HEAD) return false;
  const view = new DataView(record.buffer, record.byteOffset);
  return (
    view.getUint32(0, true) === record.length &&
    view.getUint32(8, true) === frame &&
    view.getUint32(4, true) === crc32(record.subarray(8))
  );
}

/** Mode, base frame and bytes of a track in a sound record. */
export function trackOf(
  record: Uint8Array,
  track: number,
): { mode: number; base: number; bytes: Uint8Array } {
  const view = new DataView(record.buffer, record.byteOffset);
  const readouts = view.getUint32(12, true);
  const at = HEAD + 4 * (readouts + (readouts % 2)) + ENTRY * track;
  const from = view.getUint32(at + 8, true);
  return {
    mode: view.getUint32(at, true),
    base: view.getUint32(at + 4, true),
    bytes: record.subarray(from, from + view.getUint32(at + 12, true)),
  };
}

const TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c;
});

/** ISO 3309, as in PNG and zip. */
export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = (TABLE[(c ^ byte) & 0xff] as number) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}
