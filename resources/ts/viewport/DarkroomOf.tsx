import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import * as THREE from 'three';
import { darkroom, type Exposure, type Measure, type Picture, type Roll } from '../film/darkroom';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { isMeasured, PASS_LAYER, PASSES, uHalf, uPass, uViews } from './passes';
import { placingOf } from './placing';
import { aspectOf, cameraPose, heightOf } from './ShotCamera';

/** Of a frame: as near to it as to tell nothing else, and yet between two, so that both are at hand. */
const BESIDE = 1e-4;

const isPicture = (one: Exposure): one is Picture => !isMeasured(one.pass);
const isMeasure = (one: Exposure): one is Measure => isMeasured(one.pass);

/** Lets the darkroom take pictures of what the canvas shows: through the shot's camera where it has one, else as one looks. */
export function DarkroomOf() {
  const { handle, frames, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const get = useThree((state) => state.get);
  useEffect(() => {
    if (!frames) return;
    const open = async (width: number, height: number): Promise<Roll> => {
      const view = useView.getState();
      view.set({ playing: false, hovered: null, through: document.camera.on });
      // Until the view has gone to the camera.
      await new Promise((done) => setTimeout(done, 100));
      const lens = (get().camera as THREE.PerspectiveCamera).clone();
      lens.aspect = width / height;
      if (document.camera.on) lens.fov = THREE.MathUtils.radToDeg(heightOf(document));
      lens.updateProjectionMatrix();
      /** Everything stands where it is at a time, and the lens with it. */
      const stand = (time: number) => {
        const { advance, camera, scene } = get();
        clock.show(time);
        // What follows the clock is brought there; it is drawn only once it is.
        scene.visible = false;
        advance(performance.now());
        scene.visible = true;
        // Who looks around meanwhile does not shake the film.
        if (document.camera.on) {
          lens.position.copy(camera.position);
          lens.quaternion.copy(camera.quaternion);
        }
        lens.updateMatrixWorld(true);
      };
      /** What the lens shows at a frame, from a place to its picture. */
      const seen = (frame: number) => {
        const at = lens.clone();
        if (document.camera.on) {
          const { position, turn } = placingOf(document.placing).eye(cameraPose(document, numbers, frame));
          at.position.copy(position);
          at.quaternion.copy(turn);
        }
        at.updateMatrixWorld(true);
        return at.projectionMatrix.clone().multiply(at.matrixWorldInverse);
      };
      const draw = ({ pass, paper }: Picture) => {
        const { gl, scene } = get();
        uPass.value = PASSES[pass];
        lens.layers.set(pass === 'picture' ? 0 : PASS_LAYER);
        gl.render(scene, lens);
        paper.drawImage(gl.domElement, 0, 0);
        // Shadows fall once a frame.
        gl.shadowMap.autoUpdate = false;
      };
      const measure = ({ pass }: Measure) => {
        const { gl, scene } = get();
        const plate = new THREE.WebGLRenderTarget(width, height, { type: THREE.FloatType });
        uPass.value = PASSES[pass];
        lens.layers.set(PASS_LAYER);
        gl.setRenderTarget(plate);
        gl.clear();
        gl.render(scene, lens);
        gl.setRenderTarget(null);
        return plate;
      };
      const develop = async (plate: THREE.WebGLRenderTarget) => {
        // Only who measures needs it.
        const { EXRExporter } = await import('three/addons/exporters/EXRExporter.js');
        try {
          return new Uint8Array(await new EXRExporter().parse(get().gl, plate, { type: THREE.FloatType }));
        } finally {
          plate.dispose();
        }
      };
      return {
        take: async (frame, onto) => {
          const next = Math.min(frame + 1, frames.have);
          const before = Math.max(1, next - 1);
          await Promise.all([before, frame, next].map((one) => frames.ready(one)));
          const { camera, gl, scene, size } = get();
          stand(frame);
          const plates: [Measure, THREE.WebGLRenderTarget][] = [];
          const ratio = gl.getPixelRatio();
          gl.setPixelRatio(1);
          gl.setSize(width, height, false);
          try {
            onto.filter(isPicture).forEach(draw);
            for (const one of onto.filter(isMeasure)) {
              if (one.pass === 'motion' && before < next) {
                // Where a thing goes next; in the last frame, where it came from.
                stand(frame < next ? frame + BESIDE : frame - BESIDE);
                uViews.value = [seen(before), seen(next)];
                uHalf.value.set(width / 2, height / 2);
              }
              plates.push([one, measure(one)]);
            }
          } finally {
            uPass.value = PASSES.picture;
            gl.setPixelRatio(ratio);
            gl.setSize(size.width, size.height, false);
            gl.render(scene, camera);
            gl.shadowMap.autoUpdate = true;
          }
          for (const [one, plate] of plates) one.file = await develop(plate);
        },
        close: () => {
          view.set({ through: view.through });
          clock.show(useView.getState().frame);
          get().invalidate();
        },
      };
    };
    const own = {
      aspect: () => {
        const { size } = get();
        return document.camera.on ? aspectOf(document) : size.width / size.height;
      },
      open,
    };
    darkroom.current = own;
    return () => {
      if (darkroom.current === own) darkroom.current = null;
    };
  }, [document, frames, numbers, get]);
  return null;
}
