import { create } from 'zustand';
import { standard } from '../api/schema';
import type { Path } from './document';

/** The brush in the hand: the settings of a stroke, but for its points. */
export interface Brush {
  mode: string;
  radius: number;
  softness: number;
  strength: number;
  mirror: string;
}

interface Hand {
  brush: Brush | null;
  /** Strokes that are being painted, by the setting they stand in; null: one does not paint. */
  painting: Path | null;
  set: (change: Partial<Omit<Hand, 'set'>>) => void;
}

export const useBrush = create<Hand>((set) => ({
  brush: null,
  painting: null,
  set: (change) => set(change),
}));

/** A brush that fits a thing so large: a twelfth of it. */
export function brushFor(path: Path, size: number): Brush {
  const plain = standard([...path, 0]) as Brush;
  return size > 0 ? { ...plain, radius: Number((size / 12).toPrecision(2)) } : plain;
}

/** What one does while a key is held: the other way round. */
export function turned(mode: string, held: boolean): string {
  if (!held) return mode;
  return mode === 'add' ? 'remove' : 'add';
}
