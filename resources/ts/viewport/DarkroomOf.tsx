import { useThree } from '@react-three/fiber';
import { useContext, useEffect } from 'react';
import * as THREE from 'three';
import { darkroom, type Roll } from '../film/darkroom';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { PASS_LAYER, PASSES, uPass } from './passes';
import { aspectOf, heightOf } from './ShotCamera';

/** Lets the darkroom take pictures of what the canvas shows: through the shot's camera where it has one, else as one looks. */
export function DarkroomOf() {
  const { handle, frames } = useContext(ShotContext);
  const { document } = handle.shot;
  const get = useThree((state) => state.get);
  useEffect(() => {
    if (!frames) return;
    const open = async (width: number, height: number): Promise<Roll> => {
      const before = useView.getState();
      before.set({ playing: false, hovered: null, through: document.camera.on });
      // Until the view has gone to the camera.
      await new Promise((done) => setTimeout(done, 100));
      const lens = (get().camera as THREE.PerspectiveCamera).clone();
      lens.aspect = width / height;
      if (document.camera.on) lens.fov = THREE.MathUtils.radToDeg(heightOf(document));
      lens.updateProjectionMatrix();
      return {
        take: async (frame, onto) => {
          await frames.ready(frame);
          const { advance, camera, gl, scene, size } = get();
          clock.show(frame);
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
          const ratio = gl.getPixelRatio();
          gl.setPixelRatio(1);
          gl.setSize(width, height, false);
          try {
            for (const { pass, paper } of onto) {
              uPass.value = PASSES[pass];
              lens.layers.set(pass === 'picture' ? 0 : PASS_LAYER);
              gl.render(scene, lens);
              paper.drawImage(gl.domElement, 0, 0);
              // Shadows fall once a frame.
              gl.shadowMap.autoUpdate = false;
            }
          } finally {
            uPass.value = PASSES.picture;
            gl.setPixelRatio(ratio);
            gl.setSize(size.width, size.height, false);
            gl.render(scene, camera);
            gl.shadowMap.autoUpdate = true;
          }
        },
        close: () => {
          before.set({ through: before.through });
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
  }, [document, frames, get]);
  return null;
}
