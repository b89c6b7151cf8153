import type { Plate } from './darkroom';

/** Numbers of one picture that are at hand at once: more would be too much for a page. */
const MOST = 150e6;

/** A plate and what its part of the file is called. */
export interface Part {
  name: string;
  plate: Plate;
}

/** Whether pictures of this size can be taken, and if not, why. */
export function tooLarge(width: number, height: number, parts: Plate[]): string | null {
  const numbers = width * height * parts.reduce((sum, { channels }) => sum + channels.length, 0);
  return numbers <= MOST
    ? null
    : `${parts.length} parts of ${width} by ${height} pixels are too much for this page at once. Take them smaller, or as layers and passes of their own.`;
}

/** One EXR of several parts, each with its name; how it looks in halves, what is measured in whole floats. */
export async function composed(
  width: number,
  height: number,
  parts: Part[],
): Promise<Uint8Array<ArrayBuffer>> {
  // Only who takes one needs it.
  const { encodeExr, init } = await import('exrs');
  await init();
  const layers = parts.map(({ name, plate: { channels, numbers, pass } }) => {
    if (!numbers) throw new Error(`The part “${name}” of a picture could not be taken.`);
    return {
      name,
      channelNames: channels,
      interleavedPixels: numbers,
      precision: pass === 'picture' ? ('f16' as const) : ('f32' as const),
      compression: 'zip16' as const,
    };
  });
  return new Uint8Array(encodeExr({ width, height, layers }));
}
