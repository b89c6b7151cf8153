import type * as THREE from 'three';
import { put } from './bakedPieces';
import { bentNormals, type Shading } from './deform';
import { table, type PieceUniforms } from './material';
import type { PieceMesh } from './mesh';
import { Pair } from './Pair';
import type { BakedFrames } from './poses';

interface Slot {
  places: THREE.DataTexture;
  normals: THREE.DataTexture;
  /** How far each vertex has changed. */
  change: THREE.DataTexture;
  /** The places that are there. */
  shown: Float32Array | null;
}

/** The baked frames of what bends as the graphics card reads them: places and normals of two frames, mixed there. */
export class BakedVertices {
  private readonly pair: Pair<Slot>;

  constructor(
    private readonly mesh: PieceMesh,
    private readonly shading: Shading,
    private readonly prop: string,
  ) {
    this.pair = new Pair<Slot>(
      () => ({
        places: table(mesh.vertexCount, 3, 'numbers'),
        normals: table(shading.count, 3, 'numbers'),
        change: table(mesh.vertexCount, 1, 'shares'),
        shown: null,
      }),
      (slot, frames, frame) => this.fill(slot, frames, frame),
    );
  }

  /** Shows a time; where it is not there yet nothing changes. */
  show(uniforms: PieceUniforms, frames: BakedFrames, time: number): void {
    const shown = this.pair.around(frames, time);
    if (!shown) return;
    const both = [shown.before, shown.after];
    uniforms.uVertices.value = both.map(({ places }) => places);
    uniforms.uNormals.value = both.map(({ normals }) => normals);
    uniforms.uChange.value = both.map(({ change }) => change);
    uniforms.uBetween.value = shown.between;
  }

  dispose(): void {
    for (const { places, normals, change } of this.pair.slots)
      [places, normals, change].forEach((one) => one.dispose());
  }

  private fill(slot: Slot, frames: BakedFrames, frame: number): boolean {
    const places = frames.at(frame, this.prop, 'vertices');
    if (!places) return false;
    if (places !== slot.shown) {
      (slot.places.image.data as unknown as Float32Array).set(places);
      slot.places.needsUpdate = true;
      bentNormals(slot.normals.image.data as unknown as Float32Array, this.mesh, this.shading, places);
      slot.normals.needsUpdate = true;
      slot.shown = places;
    }
    const change = frames.bytesAt(frame, this.prop, 'weight');
    if (change) put(slot.change, change);
    return true;
  }
}
