import type { Measured, Pass } from '../viewport/passes';

/** What is drawn, over what is there. */
export interface Picture {
  pass: Exclude<Pass, Measured>;
  /** The number of the prop that it is of, or {@link ALL} or {@link GROUND}. */
  only: number;
  paper: CanvasRenderingContext2D;
}

/** What is measured at each pixel, as an EXR. */
export interface Measure {
  pass: Measured;
  file: Uint8Array<ArrayBuffer> | null;
}

/** What is read back as numbers, from the top row to the bottom one. */
export interface Plate {
  pass: Pass;
  /** As of a picture. */
  only: number;
  /** What the numbers of a pixel are called. */
  channels: readonly string[];
  numbers: Float32Array | null;
}

export type Exposure = Picture | Measure | Plate;

/** Takes pictures of the shot in a size of its own, frame by frame. */
export interface Roll {
  /** Takes a frame: how it looks, blurred by what moves in so much of a frame, and what else is asked of it, which is not. */
  take: (frame: number, onto: Exposure[], blur: number) => Promise<void>;
  /** Paints what is behind the shot at a frame; nothing where that is the page. */
  behind: (frame: number, paper: CanvasRenderingContext2D) => Promise<void>;
  /** What one sees is as it was. */
  close: () => void;
}

interface Darkroom {
  /** Width by height of what would be taken: the shot's camera has its own, else it is what one sees. */
  aspect: () => number;
  open: (width: number, height: number) => Promise<Roll>;
}

/** There while the picture is; set by {@link DarkroomOf} inside the canvas. */
export const darkroom: { current: Darkroom | null } = { current: null };
