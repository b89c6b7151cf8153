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
  /** Id of the prop that the brush's size was chosen for. */
  sizedFor: string;
  /** Strokes that are being painted, by the setting they stand in; null: one does not paint. */
  painting: Path | null;
  set: (change: Partial<Omit<Hand, 'set'>>) => void;
}

export const useBrush = create<Hand>((set) => ({
  brush: null,
  sizedFor: '',
  painting: null,
  set: (change) => set(change),
}));

/** A brush that fits a thing so large: a twelfth of it. All else stays as it was. */
export function brushFor(path: Path, size: number, before: Brush | null = null): Brush {
  const { mode, radius, softness, strength, mirror } = before ?? (standard([...path, 0]) as Brush);
  const fits = size > 0 ? Number((size / 12).toPrecision(2)) : radius;
  return { mode, radius: fits, softness, strength, mirror };
}

/** What one does while a key is held: the other way round. */
export function turned(mode: string, held: boolean): string {
  if (!held) return mode;
  return mode === 'add' ? 'remove' : 'add';
}

export type Point = [number, number, number];

/** Points as a document keeps them: 32-bit floats, little-endian, in Base64. */
export function packed(points: Point[]): string {
  const bytes = new DataView(new ArrayBuffer(12 * points.length));
  points.flat().forEach((value, k) => bytes.setFloat32(4 * k, value, true));
  return btoa(String.fromCharCode(...new Uint8Array(bytes.buffer)));
}

/** Points of a stroke are this share of the brush apart to begin with, and no more than so many. */
const APART = 0.25;
const MOST = 1000;

/** The points of a stroke as it grows: those too near to the last are left out, and a very long stroke gets coarser. */
export class Trail {
  points: Point[] = [];
  private apart: number;

  constructor(
    radius: number,
    private readonly most = MOST,
  ) {
    this.apart = APART * radius;
  }

  /** Whether it has become another. */
  add(point: Point): boolean {
    const last = this.points.at(-1);
    const far = last ? Math.hypot(...point.map((value, k) => value - (last[k] ?? 0))) : Infinity;
    if (far < this.apart) return false;
    this.points.push(point);
    if (this.points.length > this.most) {
      this.points = this.points.filter((_, k) => k % 2 === 0);
      this.apart *= 2;
    }
    return true;
  }
}
