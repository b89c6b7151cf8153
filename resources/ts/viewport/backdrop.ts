import type { ShotDocument } from '../api/types';
import { gateOf, type Rect } from './ShotCamera';

export type Backdrop = ShotDocument['backdrop'];

/** The pictures that are seen one after the other. */
function picturesOf(backdrop: Backdrop): string[] {
  const pictures =
    backdrop.shows === 'numbered'
      ? backdrop.pictures
      : backdrop.shows === 'picture'
        ? [backdrop.picture]
        : [];
  return pictures.map(({ asset }) => asset).filter((asset) => asset !== '');
}

/** Which of the pictures is behind the shot at a frame, as it was brought in; null: none is. */
export function pictureAt(backdrop: Backdrop, frame: number): string | null {
  const pictures = picturesOf(backdrop);
  const past = Math.max(0, Math.floor((Math.floor(frame) - backdrop.starts) / backdrop.every));
  const at = backdrop.after === 'repeats' ? past % pictures.length : Math.min(past, pictures.length - 1);
  return pictures[backdrop.shows === 'numbered' ? at : 0] ?? null;
}

/** The pictures that are seen from a frame on, each once, the next first. */
export function picturesFrom(backdrop: Backdrop, frame: number, frames: number): string[] {
  const seen = new Set<string>();
  for (let k = 0; k < frames; k++) {
    const asset = pictureAt(backdrop, frame + k);
    if (asset !== null) seen.add(asset);
  }
  return [...seen];
}

/**
 * Where in the view the backdrop is seen; null: nowhere. A picture belongs to the shot's camera: who looks from elsewhere does
 * not see it.
 */
export function backdropIn(
  document: ShotDocument,
  through: boolean,
  view: { width: number; height: number },
): Rect | null {
  const { camera, backdrop } = document;
  const all = { x: 0, y: 0, width: view.width, height: view.height };
  if (backdrop.shows === 'paper') return null;
  if (backdrop.shows === 'colour' || !camera.on) return all;
  return through ? gateOf(document, view) : null;
}

/** Where a picture of such a size lies so that it fills a place, or lies in it whole, in its middle. */
export function laid(fits: Backdrop['fits'], width: number, height: number, within: Rect): Rect {
  const scales = [within.width / width, within.height / height];
  const scale = fits === 'fills' ? Math.max(...scales) : Math.min(...scales);
  return {
    x: within.x + (within.width - scale * width) / 2,
    y: within.y + (within.height - scale * height) / 2,
    width: scale * width,
    height: scale * height,
  };
}

/** Paints what is behind the shot over a place: the colour, and on it the picture, where there is one. */
export function paintBackdrop(
  paper: CanvasRenderingContext2D,
  backdrop: Backdrop,
  picture: ImageBitmap | null,
  over: Rect,
): void {
  if (backdrop.shows === 'paper') return;
  paper.save();
  paper.beginPath();
  paper.rect(over.x, over.y, over.width, over.height);
  paper.clip();
  paper.fillStyle = backdrop.colour;
  paper.fillRect(over.x, over.y, over.width, over.height);
  if (picture) {
    const { x, y, width, height } = laid(backdrop.fits, picture.width, picture.height, over);
    paper.globalAlpha = backdrop.strength;
    paper.imageSmoothingQuality = 'high';
    paper.drawImage(picture, x, y, width, height);
  }
  paper.restore();
}
