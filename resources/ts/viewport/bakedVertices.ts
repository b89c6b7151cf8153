import * as THREE from 'three';
import { boundsOf, BOUNDS } from '../tracks/codecs';
import { put } from './bakedPieces';
import type { Shading } from './deform';
import { table, type PieceUniforms } from './material';
import type { PieceMesh } from './mesh';
import { NormalsPass, type Draws } from './NormalsPass';
import { Pair } from './Pair';
import type { BakedFrames } from './poses';

interface Slot {
  /** Places as they are stored: whole steps within the frame's bounds. */
  steps: THREE.DataTexture;
  from: THREE.Vector3;
  span: THREE.Vector3;
  normals: THREE.WebGLRenderTarget;
  /** How far each vertex has changed. */
  change: THREE.DataTexture;
  /** The bytes that are there. */
  shown: Uint8Array | null;
}

/** The baked frames of what bends as the graphics card reads them: places as they are stored and normals made of them, two frames mixed there. */
export class BakedVertices {
  private readonly pair: Pair<Slot>;
  private readonly pass: NormalsPass;
  private gl: Draws | null = null;

  constructor(
    mesh: PieceMesh,
    shading: Shading,
    private readonly prop: string,
  ) {
    this.pass = new NormalsPass(mesh, shading);
    this.pair = new Pair<Slot>(
      () => ({
        steps: table(mesh.vertexCount, 3, 'steps'),
        from: new THREE.Vector3(),
        span: new THREE.Vector3(),
        normals: this.pass.target(),
        change: table(mesh.vertexCount, 1, 'shares'),
        shown: null,
      }),
      (slot, frames, frame) => this.fill(slot, frames, frame),
    );
  }

  /** Shows a time; where it is not there yet nothing changes. */
  show(gl: Draws, uniforms: PieceUniforms, frames: BakedFrames, time: number): void {
    this.gl = gl;
    const shown = this.pair.around(frames, time);
    if (!shown) return;
    const both = [shown.before, shown.after];
    uniforms.uSteps.value = both.map(({ steps }) => steps);
    uniforms.uFrom.value = both.map(({ from }) => from);
    uniforms.uSpan.value = both.map(({ span }) => span);
    uniforms.uNormals.value = both.map(({ normals }) => normals.texture);
    uniforms.uChange.value = both.map(({ change }) => change);
    uniforms.uBetween.value = shown.between;
  }

  /** Reads a normal of the earlier frame back, of any length. */
  normal(gl: THREE.WebGLRenderer, k: number): number[] {
    const out = new Float32Array(4);
    const [slot] = this.pair.slots;
    if (slot) this.pass.read(gl, slot.normals, k, out);
    return [...out.slice(0, 3)];
  }

  dispose(): void {
    for (const { steps, normals, change } of this.pair.slots)
      [steps, normals, change].forEach((one) => {
        one.dispose();
      });
    this.pass.dispose();
  }

  private fill(slot: Slot, frames: BakedFrames, frame: number): boolean {
    const bytes = frames.bytesAt(frame, this.prop, 'vertices');
    if (!bytes || !this.gl) return false;
    // What lies still is the same bytes of an earlier frame.
    if (bytes.buffer !== slot.shown?.buffer || bytes.byteOffset !== slot.shown.byteOffset) {
      const { from, span } = boundsOf(bytes);
      slot.from.set(...from);
      slot.span.set(...span);
      put(slot.steps, bytes.subarray(BOUNDS));
      this.pass.draw(this.gl, slot.steps, slot.span, slot.normals);
      slot.shown = bytes;
    }
    const change = frames.bytesAt(frame, this.prop, 'weight');
    if (change) put(slot.change, change);
    return true;
  }
}
