/** Moments of an open shutter that are blended into one picture. */
export const MOMENTS = 12;

/** The moments at which a frame is exposed: itself, or some about it, over so much of a frame; none lies beyond the first frame or the last. */
export function momentsOf(frame: number, blur: number, last: number): number[] {
  if (blur <= 0) return [frame];
  return Array.from({ length: MOMENTS }, (_, k) =>
    Math.min(last, Math.max(1, frame + blur * ((k + 0.5) / MOMENTS - 0.5))),
  );
}

/** The mean of pictures of one size, as a graphics card has them: from the bottom row up, colours multiplied by alpha. */
export class Blend {
  /** The next picture is read to here. */
  readonly pixels: Uint8Array;
  private readonly sum: Uint16Array;
  private count = 0;

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.pixels = new Uint8Array(4 * width * height);
    this.sum = new Uint16Array(4 * width * height);
  }

  /** Adds the picture that has been read. */
  add(): void {
    const { sum, pixels } = this;
    for (let i = 0; i < sum.length; i++) sum[i] = (sum[i] as number) + (pixels[i] as number);
    this.count++;
  }

  /** The mean of all so far, as canvases take it: from the top, colours by themselves. Then it begins anew. */
  mean(): ImageData {
    const { sum, count, width, height } = this;
    const data = new Uint8ClampedArray(sum.length);
    for (let y = 0, to = 0; y < height; y++)
      for (let x = 0, from = 4 * width * (height - 1 - y); x < width; x++, from += 4, to += 4) {
        const alpha = sum[from + 3] as number;
        if (alpha === 0) continue;
        for (let c = 0; c < 3; c++) data[to + c] = (255 * (sum[from + c] as number)) / alpha;
        data[to + 3] = alpha / count;
      }
    sum.fill(0);
    this.count = 0;
    return new ImageData(data, width, height);
  }
}
