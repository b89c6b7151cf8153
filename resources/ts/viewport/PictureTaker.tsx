import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { request } from '../api/client';
import { useView } from '../state/view';

/** The picture in the yard is what one last saw of the shot. */
export function PictureTaker({ shotId, ready }: { shotId: string; ready: boolean }) {
  const { gl, scene, camera } = useThree();
  const frame = useView((view) => Math.round(view.frame));
  const stage = useView((view) => view.stage);
  const playing = useView((view) => view.playing);
  useEffect(() => {
    if (!ready || playing) return;
    const timer = window.setTimeout(() => {
      // Drawn anew: the browser may have thrown the last picture away.
      gl.render(scene, camera);
      const source = gl.domElement;
      const copy = document.createElement('canvas');
      copy.width = 480;
      copy.height = 300;
      const context = copy.getContext('2d');
      if (!context || source.width === 0) return;
      context.fillStyle = '#f3f1eb';
      context.fillRect(0, 0, copy.width, copy.height);
      const scale = Math.min(copy.width / source.width, copy.height / source.height);
      context.drawImage(
        source,
        (copy.width - source.width * scale) / 2,
        (copy.height - source.height * scale) / 2,
        source.width * scale,
        source.height * scale,
      );
      copy.toBlob(
        (blob) =>
          blob &&
          void request(`shots/${shotId}/picture`, {
            method: 'PUT',
            body: blob,
            headers: { 'Content-Type': 'image/jpeg' },
          }).catch(() => undefined),
        'image/jpeg',
        0.85,
      );
    }, 1500);
    return () => window.clearTimeout(timer);
  }, [ready, playing, frame, stage, gl, scene, camera, shotId]);
  return null;
}
