import * as THREE from 'three';
import { BLANK, table, type PieceUniforms } from './material';
import { Pair } from './Pair';
import type { BakedFrames } from './poses';

/** Bytes of the marks and numbers of a size: of a piece. */
const [MARKS, SIZE] = [4, 3];

interface Slot {
  poses: THREE.DataTexture;
  /** Of each piece: how much of its life it has left, how far it has changed, its flags. */
  marks: THREE.DataTexture;
  /** Only where pieces are not as large as they were made. */
  sizes: THREE.DataTexture | null;
  /** Whether a piece has let go. */
  opened: boolean;
}

/** The baked frames of a prop's pieces as the graphics card reads them: bytes as they are stored, unpacked and mixed there. */
export class BakedPieces {
  private readonly pair: Pair<Slot>;

  constructor(
    private readonly count: number,
    private readonly prop: string,
  ) {
    this.pair = new Pair<Slot>(
      () => ({
        poses: table(count, 1, 'poses'),
        marks: table(count, 1, 'marks'),
        sizes: null,
        opened: false,
      }),
      (slot, frames, frame) => this.fill(slot, frames, frame),
    );
  }

  /** Shows a time; false: it is not there yet, and nothing changes. */
  show(uniforms: PieceUniforms, frames: BakedFrames, time: number): boolean {
    const shown = this.pair.around(frames, time);
    if (!shown) return false;
    const both = [shown.before, shown.after];
    uniforms.uPacked.value = both.map(({ poses }) => poses);
    uniforms.uMarks.value = both.map(({ marks }) => marks);
    uniforms.uSizes.value = both.map(({ sizes }) => sizes ?? BLANK);
    uniforms.uSized.value = shown.before.sizes ? 1 : 0;
    uniforms.uBetween.value = shown.between;
    uniforms.uOpened.value = shown.before.opened ? 1 : 0;
    return true;
  }

  dispose(): void {
    for (const { poses, marks, sizes } of this.pair.slots)
      [poses, marks, sizes].forEach((one) => one?.dispose());
  }

  private fill(slot: Slot, frames: BakedFrames, frame: number): boolean {
    const read = (kind: string) => frames.bytesAt(frame, this.prop, kind);
    const [poses, flags, life, weight, scale] = [
      read('pose'),
      read('flags'),
      read('life'),
      read('weight'),
      read('scale'),
    ];
    if (!poses || !flags) return false;
    put(slot.poses, poses);
    const marks = slot.marks.image.data as unknown as Uint8Array;
    let opened = 0;
    for (let k = 0, o = 0; k < this.count; k++, o += MARKS) {
      marks[o] = life ? (life[k] as number) : 255;
      marks[o + 1] = weight ? (weight[k] as number) : 0;
      opened |= marks[o + 2] = flags[k] as number;
    }
    slot.marks.needsUpdate = true;
    slot.opened = (opened & 1) > 0;
    if (scale) put((slot.sizes ??= table(this.count, SIZE, 'numbers')), scale);
    return true;
  }
}

/** The bytes of a track go into a texture as they are. */
export function put(texture: THREE.DataTexture, bytes: Uint8Array): void {
  const data = texture.image.data as unknown as Uint32Array;
  new Uint8Array(data.buffer, data.byteOffset, data.byteLength).set(bytes);
  texture.needsUpdate = true;
}
