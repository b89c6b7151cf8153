import { useThree } from '@react-three/fiber';
import { useEffect, type RefObject } from 'react';
import * as THREE from 'three';
import { eye } from '../handles/eye';
import { useView } from '../state/view';
import { HIDDEN, NUMBERS } from './numbers';
import type { Shown } from './Pieces';

/** A drag shorter than this is a click, pixels. */
const CLICK = 4;

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Between two corners, whichever way it was drawn. */
export const boxOf = (x: number, y: number, toX: number, toY: number): Box => ({
  left: Math.min(x, toX),
  top: Math.min(y, toY),
  right: Math.max(x, toX),
  bottom: Math.max(y, toY),
});

/** Pieces whose middle is in a box of the screen; those that are hidden are not. */
export function inBox(
  poses: Float32Array,
  box: Box,
  screen: (place: THREE.Vector3) => { x: number; y: number } | null,
): number[] {
  const found: number[] = [];
  for (let k = 0; NUMBERS * k < poses.length; k++) {
    const o = NUMBERS * k;
    if ((poses[o + 3] as number) >= HIDDEN) continue;
    const at = screen(new THREE.Vector3(poses[o], poses[o + 1], poses[o + 2]));
    if (at && at.x >= box.left && at.x <= box.right && at.y >= box.top && at.y <= box.bottom) found.push(k);
  }
  return found;
}

/** In Break, a drag with Shift held chooses the pieces in a box, beside those that are chosen. */
export function BoxSelect({ shown }: { shown: RefObject<Map<string, Shown>> }) {
  const gl = useThree((state) => state.gl);
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null;
  const active = useView((view) => view.stage === 'break' && view.picking === null);
  useEffect(() => {
    const element = gl.domElement;
    const whole = element.closest<HTMLElement>('[data-testid=viewport]');
    if (!active || !whole || !controls) return;
    let end: () => void = () => undefined;
    const press = (event: PointerEvent) => {
      if (!event.shiftKey || event.button !== 0 || event.target !== element) return;
      const around = element.getBoundingClientRect();
      const [x, y] = [event.clientX - around.left, event.clientY - around.top];
      const mark = document.createElement('div');
      mark.className = 'pointer-events-none absolute z-10 border border-teal bg-teal/10';
      mark.dataset['testid'] = 'box';
      // The view stays while one draws.
      const turned = controls.enabled;
      controls.enabled = false;
      let box = boxOf(x, y, x, y);
      const move = (now: PointerEvent) => {
        box = boxOf(x, y, now.clientX - around.left, now.clientY - around.top);
        if (Math.hypot(box.right - box.left, box.bottom - box.top) > CLICK) whole.append(mark);
        mark.style.cssText = `left:${box.left}px;top:${box.top}px;width:${box.right - box.left}px;height:${box.bottom - box.top}px`;
      };
      const release = () => {
        end();
        if (Math.hypot(box.right - box.left, box.bottom - box.top) <= CLICK) return;
        const { propId, pieces, set } = useView.getState();
        const found = inBox(shown.current.get(propId)?.poses() ?? new Float32Array(), box, (at) =>
          eye.screen(at),
        );
        set({ pieces: [...new Set([...pieces, ...found])] });
      };
      end = () => {
        controls.enabled = turned;
        mark.remove();
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', release);
        window.removeEventListener('pointercancel', end);
        end = () => undefined;
      };
      window.addEventListener('pointermove', move);
      window.addEventListener('pointerup', release);
      window.addEventListener('pointercancel', end);
    };
    // Before the view takes hold of the pointer.
    whole.addEventListener('pointerdown', press, true);
    return () => {
      end();
      whole.removeEventListener('pointerdown', press, true);
    };
  }, [gl, controls, active, shown]);
  return null;
}
