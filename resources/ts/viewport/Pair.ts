import type { BakedFrames } from './poses';

/** What is held of one baked frame. */
interface Held<Slot> {
  slot: Slot;
  frames: BakedFrames | null;
  frame: number;
}

/**
 * Two baked frames, made ready once each, between which one draws: while a frame is shown, and until the next one has come,
 * nothing has to be read again.
 */
export class Pair<Slot> {
  private readonly held: [Held<Slot>, Held<Slot>];

  /**
   * @param make for each of both frames
   * @param fill reads a frame into one; false, with nothing changed, where it is not there yet
   */
  constructor(
    make: () => Slot,
    private readonly fill: (slot: Slot, frames: BakedFrames, frame: number) => boolean,
  ) {
    this.held = [
      { slot: make(), frames: null, frame: 0 },
      { slot: make(), frames: null, frame: 0 },
    ];
  }

  get slots(): Slot[] {
    return this.held.map(({ slot }) => slot);
  }

  /** The frames on both sides of a time, and where between them it lies; null: they are not there yet. */
  around(frames: BakedFrames, time: number): { before: Slot; after: Slot; between: number } | null {
    const at = Math.min(Math.max(1, time), Math.max(1, frames.have));
    const first = Math.floor(at);
    const next = at > first ? Math.min(first + 1, frames.have) : first;
    const before = this.hold(frames, first, next);
    if (!before) return null;
    const after = next === first ? before : this.hold(frames, next, first);
    return { before, after: after ?? before, between: at - first };
  }

  private hold(frames: BakedFrames, frame: number, other: number): Slot | null {
    const holds = (one: Held<Slot>, number: number) => one.frames === frames && one.frame === number;
    const known = this.held.find((one) => holds(one, frame));
    if (known) return known.slot;
    const free = this.held.find((one) => !holds(one, other)) ?? this.held[0];
    if (!this.fill(free.slot, frames, frame)) return null;
    free.frames = frames;
    free.frame = frame;
    return free.slot;
  }
}
