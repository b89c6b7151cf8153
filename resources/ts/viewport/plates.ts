import { request } from '../api/client';

/** Bytes of pictures that are kept at once, as they are drawn. */
const MOST = 256 * 1024 * 1024;

const bytesOf = (picture: ImageBitmap) => 4 * picture.width * picture.height;

/** Pictures behind the shot: fetched, decoded, and the last that were asked for kept. */
export class Plates {
  private readonly kept = new Map<string, ImageBitmap>();
  private readonly coming = new Map<string, Promise<ImageBitmap>>();
  private bytes = 0;

  /** @param widest pictures that are wider are made smaller: what is looked at needs no more than it shows */
  constructor(private readonly widest = Infinity) {}

  /** A picture that is there already. */
  peek(asset: string): ImageBitmap | null {
    return this.kept.get(asset) ?? null;
  }

  /** A picture, as soon as it is there; fails if it cannot be had. */
  async ready(asset: string): Promise<ImageBitmap> {
    const there = this.kept.get(asset);
    if (there) {
      // The last that was asked for goes last.
      this.kept.delete(asset);
      this.kept.set(asset, there);
      return there;
    }
    // What cannot be had is not asked for again at each frame.
    const coming = this.coming.get(asset) ?? this.fetch(asset);
    this.coming.set(asset, coming);
    const picture = await coming;
    this.coming.delete(asset);
    return picture;
  }

  close(): void {
    this.kept.forEach((picture) => picture.close());
    this.kept.clear();
    this.coming.clear();
    this.bytes = 0;
  }

  private async fetch(asset: string): Promise<ImageBitmap> {
    const blob = await (await request(`assets/${asset}`)).blob();
    const picture = await this.small(await createImageBitmap(blob));
    this.kept.set(asset, picture);
    this.bytes += bytesOf(picture);
    for (const [old, dropped] of this.kept) {
      if (this.bytes <= MOST || old === asset) break;
      this.kept.delete(old);
      this.bytes -= bytesOf(dropped);
      dropped.close();
    }
    return picture;
  }

  private async small(picture: ImageBitmap): Promise<ImageBitmap> {
    if (picture.width <= this.widest) return picture;
    const small = await createImageBitmap(picture, { resizeWidth: this.widest, resizeQuality: 'high' });
    picture.close();
    return small;
  }
}
