import { request } from '../api/client';

/** Frames in a block, as the server keeps them. */
export const BLOCK = 16;

/** Weights kept, bytes; blocks far from the frame one looks at go first. */
const BUDGET = 128_000_000;

/** A place on a prop's surface: the vertices of the triangle it lies in, and the share of each. */
export interface Place {
  vertices: [number, number, number];
  shares: [number, number, number];
}

/** The weight at a place, 0 to 1. */
export function weightAt(weights: Uint8Array, { vertices, shares }: Place): number {
  return vertices.reduce((sum, vertex, k) => sum + ((weights[vertex] ?? 0) * (shares[k] ?? 0)) / 255, 0);
}

/**
 * A prop's weight at every vertex and frame: the frame one looks at first, then block by block what lies around it, so that
 * scrubbing asks nobody.
 */
export class WeightStore {
  private readonly blocks = new Map<number, Uint8Array>();
  private readonly singles = new Map<number, Uint8Array>();
  private wanted = 1;
  private looking = false;
  private filling = false;
  private closed = false;
  private readonly stop = new AbortController();
  private readonly listeners = new Set<() => void>();
  /** Goes up whenever something has arrived. */
  version = 0;
  /** At a frame, of a document that is not stored yet. */
  private live: { frame: number; bytes: Uint8Array } | null = null;
  private waiting: { frame: number; document: unknown } | null = null;
  private drafting = false;
  /** Why nothing more comes, in words. */
  trouble = '';

  /**
   * @param address of the weights, below /api
   * @param frames of the shot
   */
  constructor(
    readonly address: string,
    readonly frames: number,
    private readonly budget = BUDGET,
  ) {}

  /** Calls whenever something has arrived. */
  readonly follow = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  private arrived(): void {
    this.version++;
    this.listeners.forEach((listener) => listener());
  }

  /** The weights at a frame that one looks at, one byte a vertex; undefined while they are fetched. */
  at(frame: number): Uint8Array | undefined {
    this.wanted = this.within(frame);
    this.run();
    return this.peek(frame);
  }

  /** The same, if they are there; nothing is fetched for it. */
  peek(frame: number): Uint8Array | undefined {
    const number = this.within(frame);
    if (this.live?.frame === number) return this.live.bytes;
    const block = this.blocks.get(blockOf(number));
    if (!block) return this.singles.get(number);
    const count = block.length / BLOCK;
    const place = (number - 1) % BLOCK;
    return block.subarray(count * place, count * (place + 1));
  }

  /** Shows what the weight at a frame is with a document that is not stored yet; of several only the last one counts. */
  draft(frame: number, document: unknown): void {
    this.waiting = { frame: this.within(frame), document };
    if (!this.drafting) {
      this.drafting = true;
      void this.drafts().finally(() => (this.drafting = false));
    }
  }

  /** Nothing is held any more: what is stored counts. */
  settle(): void {
    this.waiting = null;
    if (!this.live) return;
    this.live = null;
    this.arrived();
  }

  private async drafts(): Promise<void> {
    while (this.waiting && !this.closed) {
      const { frame, document } = this.waiting;
      this.waiting = null;
      try {
        const bytes = await this.bytes(`frame=${frame}`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ document }),
        });
        if (bytes.length === 0) continue;
        this.live = { frame, bytes };
        this.arrived();
      } catch {
        // It is only a glimpse; what is wrong with the document is said when it is stored.
        return;
      }
    }
  }

  /** How many frames are there. */
  get ready(): number {
    let frames = 0;
    for (const block of this.blocks.keys()) frames += Math.min(BLOCK, this.frames - BLOCK * block);
    return frames;
  }

  private within(frame: number): number {
    return Math.min(Math.max(1, Math.round(frame)), this.frames);
  }

  /** A value over all frames that are there, from some vertices and their shares; null where there is nothing yet. */
  over(place: Place): (number | null)[] {
    return Array.from({ length: this.frames }, (_, k) => {
      const block = this.blocks.get(blockOf(k + 1));
      if (!block) return null;
      const count = block.length / BLOCK;
      return weightAt(block.subarray(count * (k % BLOCK), count * ((k % BLOCK) + 1)), place);
    });
  }

  close(): void {
    this.closed = true;
    this.stop.abort();
  }

  /** Two things go on at once: the frame one looks at, and the blocks around it. */
  private run(): void {
    if (!this.looking) {
      this.looking = true;
      void this.lane(() => this.look()).finally(() => (this.looking = false));
    }
    if (!this.filling) {
      this.filling = true;
      void this.lane(() => this.fill()).finally(() => (this.filling = false));
    }
  }

  private async lane(step: () => Promise<boolean>): Promise<void> {
    try {
      while (!this.closed && (await step())) this.arrived();
    } catch (error) {
      // Nothing more comes of this one; another revision begins anew.
      if (!this.closed) {
        this.closed = true;
        this.trouble = error instanceof Error ? error.message : String(error);
        this.arrived();
      }
    }
  }

  private async look(): Promise<boolean> {
    const wanted = this.wanted;
    if (this.blocks.has(blockOf(wanted)) || this.singles.has(wanted)) return false;
    this.singles.set(wanted, await this.bytes(`frame=${wanted}`));
    return true;
  }

  private async fill(): Promise<boolean> {
    const next = this.next();
    if (next === null) return false;
    this.blocks.set(next, await this.bytes(`block=${next}`));
    for (const frame of this.singles.keys()) if (blockOf(frame) === next) this.singles.delete(frame);
    this.forget();
    return true;
  }

  /** The nearest block that is missing, those ahead before those behind; null: none, or there is no more room. */
  private next(): number | null {
    const last = blockOf(this.frames);
    const here = blockOf(this.wanted);
    const size = [...this.blocks.values()][0]?.length ?? 0;
    const room = size > 0 ? Math.max(1, Math.floor(this.budget / size)) : Infinity;
    for (let away = 0; away <= last && 2 * away <= room; away++) {
      for (const block of [here + away, here - away])
        if (block >= 0 && block <= last && !this.blocks.has(block)) return block;
    }
    return null;
  }

  private forget(): void {
    const here = blockOf(this.wanted);
    const far = [...this.blocks.keys()].sort((a, b) => Math.abs(b - here) - Math.abs(a - here));
    let held = [...this.blocks.values()].reduce((sum, block) => sum + block.length, 0);
    for (const block of far) {
      if (held <= this.budget || this.blocks.size === 1) return;
      held -= this.blocks.get(block)?.length ?? 0;
      this.blocks.delete(block);
    }
  }

  private async bytes(what: string, more: Parameters<typeof request>[1] = {}): Promise<Uint8Array> {
    const response = await request(`${this.address}${this.address.includes('?') ? '&' : '?'}${what}`, {
      ...more,
      signal: this.stop.signal,
    });
    return new Uint8Array(await response.arrayBuffer());
  }
}

function blockOf(frame: number): number {
  return Math.floor((frame - 1) / BLOCK);
}
