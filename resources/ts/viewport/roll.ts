import * as THREE from 'three';
import type { RootState } from '@react-three/fiber';
import type { ShotDocument } from '../api/types';
import type { Exposure, Measure, Picture, Plate, Roll } from '../film/darkroom';
import { Blend, momentsOf } from '../film/blend';
import { clock } from '../state/frame';
import type { Numbers } from '../state/numbers';
import { useView } from '../state/view';
import type { FrameStore } from '../tracks/FrameStore';
import { ALL, GROUND, PASS_LAYER, PASSES, SOLID_LAYER, uHalf, uOnly, uPass, uSigned, uViews } from './passes';
import { paintBackdrop, pictureAt } from './backdrop';
import { placingOf } from './placing';
import { Plates } from './plates';
import { cameraPose, heightAt } from './ShotCamera';

/** Of a frame: as near to it as to tell nothing else, and yet between two, so that both are at hand. */
const BESIDE = 1e-4;

/** Places in a pixel at which a soft picture is looked at. */
const SAMPLES = 4;

const isPicture = (one: Exposure): one is Picture => 'paper' in one;
const isMeasure = (one: Exposure): one is Measure => 'file' in one;
const isPlate = (one: Exposure): one is Plate => 'channels' in one;

/** Of what is taken. */
interface Scene {
  get: () => RootState;
  document: ShotDocument;
  numbers: Numbers;
  frames: FrameStore;
}

/** Takes the pictures of a shot through a lens of its own, with the size that they have. */
class ShotRoll implements Roll {
  private readonly lens: THREE.PerspectiveCamera;
  private readonly plates = new Plates();
  /** Where pictures are blended; null: none has been yet. */
  private blend: Blend | null = null;
  /** What is blended is painted from here. */
  private readonly sheet: CanvasRenderingContext2D;
  /** At which all stands now. */
  private time = 0;

  constructor(
    private readonly of: Scene,
    private readonly width: number,
    private readonly height: number,
    /** Whether one looked through the shot's camera before. */
    private readonly through: boolean,
  ) {
    this.lens = (of.get().camera as THREE.PerspectiveCamera).clone();
    this.lens.aspect = width / height;
    this.zoom(this.lens, 1);
    const sheet = window.document.createElement('canvas');
    sheet.width = width;
    sheet.height = height;
    const paper = sheet.getContext('2d');
    if (!paper) throw new Error('This browser gives no canvas to draw on.');
    this.sheet = paper;
  }

  async take(frame: number, onto: Exposure[], blur: number): Promise<void> {
    const { frames, get } = this.of;
    const next = Math.min(frame + 1, frames.have);
    const before = Math.max(1, next - 1);
    const moments = momentsOf(frame, blur, frames.have);
    const needed = new Set([before, frame, next, ...moments.map(Math.floor), ...moments.map(Math.ceil)]);
    await Promise.all([...needed].map((one) => frames.ready(one)));
    const { camera, gl, scene, size } = get();
    this.stand(frame);
    const plates: [Measure, THREE.WebGLRenderTarget][] = [];
    const ratio = gl.getPixelRatio();
    gl.setPixelRatio(1);
    gl.setSize(this.width, this.height, false);
    try {
      onto.filter(isPicture).forEach((one) => this.draw(one, one.pass === 'picture' ? moments : [frame]));
      // What moves is asked last: for that all is put a little aside.
      const asked = onto.filter((one): one is Measure | Plate => isMeasure(one) || isPlate(one));
      for (const one of [...asked].sort(
        (a, b) => Number(a.pass === 'motion') - Number(b.pass === 'motion'),
      )) {
        if (one.pass === 'motion' && before < next) {
          // Where a thing goes next; in the last frame, where it came from.
          this.stand(frame < next ? frame + BESIDE : frame - BESIDE);
          uViews.value = [this.seen(before), this.seen(next)];
          uHalf.value.set(this.width / 2, this.height / 2);
        } else if (one.pass !== 'picture' && this.time !== frame) this.stand(frame);
        if (isPlate(one)) this.expose(one, one.pass === 'picture' ? moments : [this.time]);
        else plates.push([one, this.measure(one)]);
      }
    } finally {
      uPass.value = PASSES.picture;
      uOnly.value = ALL;
      gl.setPixelRatio(ratio);
      gl.setSize(size.width, size.height, false);
      gl.render(scene, camera);
      gl.shadowMap.autoUpdate = true;
    }
    // While these are written the page may draw what it shows.
    for (const [one, plate] of plates) one.file = await this.develop(plate);
  }

  async behind(frame: number, paper: CanvasRenderingContext2D): Promise<void> {
    const { backdrop } = this.of.document;
    const asset = pictureAt(backdrop, frame);
    const picture = asset === null ? null : await this.plates.ready(asset);
    paintBackdrop(paper, backdrop, picture, { x: 0, y: 0, width: this.width, height: this.height });
  }

  close(): void {
    this.plates.close();
    useView.getState().set({ through: this.through });
    clock.show(useView.getState().frame);
    this.of.get().invalidate();
  }

  /** Everything stands where it is at a time, and the lens with it. */
  private stand(time: number): void {
    const { advance, camera, gl, scene } = this.of.get();
    this.time = time;
    gl.shadowMap.autoUpdate = true;
    clock.show(time);
    // What follows the clock is brought there; it is drawn only once it is.
    scene.visible = false;
    advance(performance.now());
    scene.visible = true;
    // Who looks around meanwhile does not shake the film.
    if (this.of.document.camera.on) {
      this.lens.position.copy(camera.position);
      this.lens.quaternion.copy(camera.quaternion);
    }
    this.zoom(this.lens, time);
    this.lens.updateMatrixWorld(true);
  }

  /** Gives a lens the width that the shot's camera has at a time. */
  private zoom(lens: THREE.PerspectiveCamera, time: number): void {
    const { document, numbers } = this.of;
    if (document.camera.on) lens.fov = THREE.MathUtils.radToDeg(heightAt(document, numbers, time));
    lens.updateProjectionMatrix();
  }

  /** What the lens shows at a frame, from a place to its picture. */
  private seen(frame: number): THREE.Matrix4 {
    const { document, numbers } = this.of;
    const at = this.lens.clone();
    if (document.camera.on) {
      const { position, turn } = placingOf(document.placing).eye(cameraPose(document, numbers, frame));
      at.position.copy(position);
      at.quaternion.copy(turn);
    }
    this.zoom(at, frame);
    at.updateMatrixWorld(true);
    return at.projectionMatrix.clone().multiply(at.matrixWorldInverse);
  }

  /** What is drawn next is of this. */
  private ask(pass: keyof typeof PASSES, only: number): void {
    uPass.value = PASSES[pass];
    uOnly.value = only;
    this.lens.layers.set(pass !== 'picture' ? PASS_LAYER : only > GROUND ? SOLID_LAYER : 0);
  }

  /** Draws at each of some moments; where something else was drawn before, shadows fall as they did. */
  private at(moments: number[], draw: () => void): void {
    const { gl } = this.of.get();
    for (const moment of moments) {
      if (moment !== this.time) this.stand(moment);
      draw();
      gl.shadowMap.autoUpdate = false;
    }
  }

  private draw({ pass, only, paper }: Picture, moments: number[]): void {
    const { gl, scene } = this.of.get();
    const blend = moments.length > 1 ? (this.blend ??= new Blend(this.width, this.height)) : null;
    this.at(moments, () => {
      this.ask(pass, only);
      gl.render(scene, this.lens);
      if (!blend) return;
      const context = gl.getContext();
      context.readPixels(0, 0, this.width, this.height, context.RGBA, context.UNSIGNED_BYTE, blend.pixels);
      blend.add();
    });
    if (blend) {
      this.sheet.putImageData(blend.mean(), 0, 0);
      paper.drawImage(this.sheet.canvas, 0, 0);
    } else paper.drawImage(gl.domElement, 0, 0);
  }

  private measure({ pass }: Measure): THREE.WebGLRenderTarget {
    const { gl, scene } = this.of.get();
    if (!gl.extensions.has('EXT_color_buffer_float'))
      throw new Error('This browser cannot measure depth and motion here. PNGs can be taken without.');
    const plate = new THREE.WebGLRenderTarget(this.width, this.height, { type: THREE.FloatType });
    uPass.value = PASSES[pass];
    this.lens.layers.set(PASS_LAYER);
    gl.setRenderTarget(plate);
    gl.clear();
    gl.render(scene, this.lens);
    gl.setRenderTarget(null);
    return plate;
  }

  /** Light as it is, edges softened, or what else is told, as it is. */
  private expose(one: Plate, moments: number[]): void {
    const { gl, scene } = this.of.get();
    if (!gl.extensions.has('EXT_color_buffer_float'))
      throw new Error('This browser cannot keep light as it is here. PNGs can be taken without.');
    const soft = one.pass === 'picture';
    const plate = new THREE.WebGLRenderTarget(this.width, this.height, {
      type: soft ? THREE.HalfFloatType : THREE.FloatType,
      samples: soft ? SAMPLES : 0,
    });
    try {
      const numbers = new Float32Array(one.channels.length * this.width * this.height);
      const read = soft
        ? new Uint16Array(4 * this.width * this.height)
        : new Float32Array(4 * this.width * this.height);
      this.at(moments, () => {
        this.ask(one.pass, one.only);
        uSigned.value = 1;
        gl.setRenderTarget(plate);
        gl.clear();
        gl.render(scene, this.lens);
        gl.readRenderTargetPixels(plate, 0, 0, this.width, this.height, read);
        uSigned.value = 0;
        gl.setRenderTarget(null);
        addTopDown(read, this.width, this.height, one.channels.length, 1 / moments.length, numbers);
      });
      one.numbers = numbers;
    } finally {
      uSigned.value = 0;
      gl.setRenderTarget(null);
      plate.dispose();
    }
  }

  private async develop(plate: THREE.WebGLRenderTarget): Promise<Uint8Array<ArrayBuffer>> {
    // Only who measures needs it.
    const { EXRExporter } = await import('three/addons/exporters/EXRExporter.js');
    try {
      return new Uint8Array(
        await new EXRExporter().parse(this.of.get().gl, plate, { type: THREE.FloatType }),
      );
    } finally {
      plate.dispose();
    }
  }
}

/** Adds a share of the first few of four numbers a pixel, the last row first; halves are made whole. */
function addTopDown(
  read: Uint16Array | Float32Array,
  width: number,
  height: number,
  channels: number,
  share: number,
  numbers: Float32Array,
): void {
  const halves = read instanceof Uint16Array;
  let k = 0;
  for (let y = height - 1; y >= 0; y--)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < channels; c++) {
        const value = read[4 * (y * width + x) + c] ?? 0;
        numbers[k] = (numbers[k] as number) + share * (halves ? THREE.DataUtils.fromHalfFloat(value) : value);
        k++;
      }
}

export async function openRoll(of: Scene, width: number, height: number): Promise<Roll> {
  const { set, through } = useView.getState();
  set({ playing: false, hovered: null, through: of.document.camera.on });
  // Until the view has gone to the camera.
  await new Promise((done) => setTimeout(done, 100));
  return new ShotRoll(of, width, height, through);
}
