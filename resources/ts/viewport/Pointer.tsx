import { useThree } from '@react-three/fiber';
import { useEffect, type RefObject } from 'react';
import * as THREE from 'three';
import { useView } from '../state/view';
import type { Place } from '../tracks/WeightStore';
import type { Shown } from './Pieces';
import { placeOf, type Hit } from './poses';
import { pieceAt, underRay, type PieceOn } from './under';

/** Finds the piece under the pointer; a click says what was hit. */
export function Pointer({
  shown,
  onClick,
}: {
  shown: RefObject<Map<string, Shown>>;
  onClick: (prop: string, hit: Hit, more: boolean, place: Place, pieceOn: PieceOn) => void;
}) {
  const { camera, gl } = useThree();
  useEffect(() => {
    const caster = new THREE.Raycaster();
    const element = gl.domElement;
    const whole = element.closest<HTMLElement>('[data-testid=viewport]') ?? element;
    let waiting = false;
    const find = (event: PointerEvent) => {
      const box = gl.domElement.getBoundingClientRect();
      caster.setFromCamera(
        new THREE.Vector2(
          ((event.clientX - box.left) / box.width) * 2 - 1,
          1 - ((event.clientY - box.top) / box.height) * 2,
        ),
        camera,
      );
      const best = underRay(shown.current.values(), caster.ray);
      return (
        best && {
          ...best,
          at: caster.ray.at(best.hit.distance, new THREE.Vector3()).toArray(),
          x: event.clientX - box.left,
          y: event.clientY - box.top,
        }
      );
    };
    const move = (event: PointerEvent) => {
      if (waiting || event.buttons !== 0) return;
      // One looks through handles, but not through what else lies over the picture.
      const over = event.target as Element;
      if (over !== element && !over.closest('[data-testid=handles]')) return;
      waiting = true;
      requestAnimationFrame(() => {
        waiting = false;
        const found = find(event);
        const mesh = found && shown.current.get(found.prop)?.mesh;
        useView.getState().set({
          hovered: mesh
            ? {
                prop: found.prop,
                piece: found.hit.piece,
                x: found.x,
                y: found.y,
                place: placeOf(mesh, found.hit),
                at: found.at,
              }
            : null,
        });
      });
    };
    let down = [0, 0];
    const press = (event: PointerEvent) => (down = [event.clientX, event.clientY]);
    const release = (event: PointerEvent) => {
      if (Math.hypot(event.clientX - (down[0] as number), event.clientY - (down[1] as number)) > 4) return;
      const found = find(event);
      const mesh = found && shown.current.get(found.prop)?.mesh;
      if (mesh)
        onClick(
          found.prop,
          found.hit,
          event.shiftKey || event.ctrlKey || event.metaKey,
          placeOf(mesh, found.hit),
          (at) => pieceAt(mesh, at),
        );
    };
    const leave = () => useView.getState().set({ hovered: null });
    whole.addEventListener('pointermove', move);
    element.addEventListener('pointerdown', press);
    element.addEventListener('pointerup', release);
    whole.addEventListener('pointerleave', leave);
    return () => {
      leave();
      whole.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', press);
      element.removeEventListener('pointerup', release);
      whole.removeEventListener('pointerleave', leave);
    };
  }, [camera, gl, shown, onClick]);
  return null;
}
