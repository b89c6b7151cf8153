import { request } from '../api/client';

const HEADER = 64;
const RECORD_HEADER = 24;
const PIECE = 36;

/** The baked frames, fetched by ranges as they are written. Layout in docs/frames.md. */
export class FrameStore {
  private readonly poses = new Map<number, Float32Array>();
  private loading = false;
  /** Frames fetched so far, without gaps, from 1. */
  have = 0;

  constructor(
    readonly bake: string,
    readonly pieces: number,
  ) {}

  /** Eight numbers a piece (place, turn, weight) and, as bits, its flags. */
  at(frame: number): Float32Array | undefined {
    return this.poses.get(Math.min(Math.max(1, Math.floor(frame)), this.have));
  }

  released(frame: number, piece: number): boolean {
    const values = this.at(frame);
    return (
      values !== undefined &&
      (new Uint32Array(values.buffer, values.byteOffset)[9 * piece + 8] ?? 0) % 2 === 1
    );
  }

  /** Fetches up to the given frame; resolves with whether anything came. */
  async fetchTo(done: number): Promise<boolean> {
    if (this.loading || done <= this.have) return false;
    this.loading = true;
    try {
      const record = RECORD_HEADER + PIECE * this.pieces;
      // Short reads keep the first frames quick.
      const last = Math.min(done, this.have + Math.max(1, Math.floor(4_000_000 / record)));
      const from = HEADER + this.have * record;
      const response = await request(`bakes/${this.bake}/frames`, {
        headers: { Range: `bytes=${from}-${HEADER + last * record - 1}` },
      });
      const buffer = await response.arrayBuffer();
      const count = Math.floor(buffer.byteLength / record);
      for (let k = 0; k < count; k++) {
        this.poses.set(this.have + 1, new Float32Array(buffer, k * record + RECORD_HEADER, 9 * this.pieces));
        this.have++;
      }
      return count > 0;
    } finally {
      this.loading = false;
    }
  }
}
