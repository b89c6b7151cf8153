import { useThree } from '@react-three/fiber';
import { useQueryClient } from '@tanstack/react-query';
import { useContext, useEffect } from 'react';
import { request } from '../api/client';
import { ShotContext } from '../shot/context';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { backdropIn, laid, paintBackdrop, pictureAt } from './backdrop';
import { seenPlates } from './Behind';
import { HELPER_LAYER } from './passes';
import { gateOf } from './ShotCamera';

/** Asks for the picture in the yard to become what one sees now. */
export const TAKE_PICTURE = 'yard:picture';

/** The picture in the yard: the first sight of the shot, until one chooses a view and a frame. */
export function PictureTaker({
  shotId,
  ready,
  missing,
}: {
  shotId: string;
  ready: boolean;
  missing: boolean;
}) {
  const { document } = useContext(ShotContext).handle.shot;
  const { gl, scene, camera } = useThree();
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  useEffect(() => {
    const take = (asked: boolean) => {
      // Drawn anew: the browser may have thrown the last picture away.
      camera.layers.disable(HELPER_LAYER);
      gl.render(scene, camera);
      camera.layers.enable(HELPER_LAYER);
      const source = gl.domElement;
      const copy = window.document.createElement('canvas');
      copy.width = 480;
      copy.height = 300;
      const context = copy.getContext('2d');
      if (!context || source.width === 0) return;
      context.fillStyle = '#f3f1eb';
      context.fillRect(0, 0, copy.width, copy.height);
      // Through the shot's camera it is the camera's own picture.
      const through = useView.getState().through && document.camera.on;
      const seen = through
        ? gateOf(document, source)
        : { x: 0, y: 0, width: source.width, height: source.height };
      const onto = laid(through ? 'fills' : 'whole', seen.width, seen.height, {
        x: 0,
        y: 0,
        width: copy.width,
        height: copy.height,
      });
      const behind = pictureAt(document.backdrop, clock.now);
      if (backdropIn(document, through, source))
        paintBackdrop(context, document.backdrop, behind === null ? null : seenPlates.peek(behind), onto);
      context.drawImage(
        source,
        seen.x,
        seen.y,
        seen.width,
        seen.height,
        onto.x,
        onto.y,
        onto.width,
        onto.height,
      );
      copy.toBlob(
        (blob) =>
          blob &&
          void request(`shots/${shotId}/picture`, {
            method: 'PUT',
            body: blob,
            headers: { 'Content-Type': 'image/jpeg' },
          })
            .then(() => {
              void client.invalidateQueries({ queryKey: ['shot', shotId] });
              if (asked) notify({ kind: 'info', title: 'The yard shows the shot like this now' });
            })
            .catch((error: unknown) => {
              if (asked)
                notify({
                  kind: 'error',
                  title: 'No picture was taken',
                  detail: error instanceof Error ? error.message : '',
                });
            }),
        'image/jpeg',
        0.85,
      );
    };
    const asked = () => take(true);
    window.addEventListener(TAKE_PICTURE, asked);
    const timer = ready && missing ? window.setTimeout(() => take(false), 1500) : 0;
    return () => {
      window.removeEventListener(TAKE_PICTURE, asked);
      window.clearTimeout(timer);
    };
  }, [document, ready, missing, gl, scene, camera, shotId, client, notify]);
  return null;
}
