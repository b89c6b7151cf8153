import { useContext, useEffect, useRef, type RefObject } from 'react';
import type * as THREE from 'three';
import { eye } from '../handles/eye';
import { poseOf } from '../handles/things';
import { ShotContext } from '../shot/context';
import { packed, Trail, turned, useBrush, type Point } from '../state/brush';
import { read, write } from '../state/document';
import { clock } from '../state/frame';
import { notches, whileHeld } from '../ui/pointer';

/** How much larger the brush gets with a step of the wheel. */
const LARGER = 1.1;

/** What is under a place of the picture. */
export interface Under {
  prop: string;
  /** In the prop's own space. */
  point: Point;
  /** In the shot. */
  place: THREE.Vector3;
}

/** While one paints: the brush under the pointer, and strokes where it is led over the prop. Beside the prop one turns the view as always. */
export function Painter({
  picture,
  under,
}: {
  picture: RefObject<HTMLDivElement | null>;
  under: (x: number, y: number) => Under | null;
}) {
  const { handle, prop, propIndex, weight, numbers, tracks } = useContext(ShotContext);
  const { brush, painting, set } = useBrush();
  const ring = useRef<SVGCircleElement>(null);
  const scene = { document: handle.shot.document, numbers, tracks, frame: Math.round(clock.now) };
  const scale = prop ? poseOf(scene, ['props', propIndex]).scale.toArray() : [1, 1, 1];
  const larger = scale.reduce((sum, value) => sum + Math.abs(value), 0) / 3;

  const work = useRef({ handle, weight, brush, painting });
  work.current = { handle, weight, brush, painting };
  const stroke = useRef(false);
  const id = prop?.id;
  useEffect(() => {
    const element = picture.current;
    if (!element || !painting || !id) return;
    const at = (event: MouseEvent) => {
      const box = element.getBoundingClientRect();
      return [event.clientX - box.left, event.clientY - box.top] as const;
    };
    const find = (event: MouseEvent) => {
      const found = under(...at(event));
      return found?.prop === id ? found : null;
    };
    const show = (event: PointerEvent) => {
      const circle = ring.current;
      const hand = work.current.brush;
      if (!circle || !hand) return;
      const found = find(event);
      circle.style.display = found ? '' : 'none';
      if (!found) return;
      const [x, y] = at(event);
      circle.setAttribute('cx', String(x));
      circle.setAttribute('cy', String(y));
      circle.setAttribute('r', String(hand.radius * larger * eye.pixels(found.place)));
      circle.dataset.mode = turned(hand.mode, event.altKey);
    };
    const press = (event: PointerEvent) => {
      const { brush: hand, painting: path, handle: shot, weight: drawn } = work.current;
      const first =
        event.button === 0 && element.querySelector('canvas[data-engine]')?.contains(event.target as Node);
      const found = first ? find(event) : null;
      if (!found || !hand || !path) return;
      // The view stays as it is.
      event.stopPropagation();
      const before = shot.shot.document;
      const number = ((read(before, path) as object[] | undefined) ?? []).length;
      const trail = new Trail(hand.radius);
      const put = <T,>(doc: T): T =>
        write(doc, path, [
          ...((read(doc, path) as object[]) ?? []).slice(0, number),
          { ...hand, mode: turned(hand.mode, event.altKey), points: packed(trail.points) },
        ]);
      const add = ({ point }: Under) => {
        if (!trail.add(point)) return;
        shot.edit(put);
        drawn?.store.draft(Math.round(clock.now), put(before));
      };
      stroke.current = true;
      shot.hold(true);
      add(found);
      let waiting = false;
      whileHeld(
        (moved) => {
          show(moved);
          if (waiting) return;
          waiting = true;
          requestAnimationFrame(() => {
            waiting = false;
            const next = stroke.current ? find(moved) : null;
            if (next) add(next);
          });
        },
        () => {
          stroke.current = false;
          shot.hold(false);
        },
      );
    };
    const wheel = (event: WheelEvent) => {
      const hand = work.current.brush;
      if (!event.shiftKey || !hand) return;
      event.preventDefault();
      event.stopPropagation();
      const times = LARGER ** -notches(event.deltaY || event.deltaX, event.deltaMode);
      set({ brush: { ...hand, radius: Number((hand.radius * times).toPrecision(4)) } });
      ring.current?.setAttribute('r', String(Number(ring.current.getAttribute('r')) * times));
    };
    const leave = () => {
      if (ring.current) ring.current.style.display = 'none';
    };
    element.addEventListener('pointerdown', press, { capture: true });
    element.addEventListener('pointermove', show);
    element.addEventListener('pointerleave', leave);
    element.addEventListener('wheel', wheel, { capture: true, passive: false });
    return () => {
      element.removeEventListener('pointerdown', press, { capture: true });
      element.removeEventListener('pointermove', show);
      element.removeEventListener('pointerleave', leave);
      element.removeEventListener('wheel', wheel, { capture: true });
    };
  }, [id, larger, painting, picture, set, under]);

  if (!painting || !prop) return null;
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 z-10 h-full w-full">
        <circle
          ref={ring}
          data-testid="brush"
          style={{ display: 'none' }}
          className="fill-none stroke-teal data-[mode=remove]:stroke-rust data-[mode=soften]:[stroke-dasharray:5_4]"
          strokeWidth={2}
        />
      </svg>
      <div
        className="absolute top-3 left-1/2 z-10 flex -translate-x-1/2 items-center gap-3 rounded-md border border-teal bg-paper px-3 py-1.5 whitespace-nowrap"
        role="status"
      >
        Paint on {prop.name}. Alt: the other way. Shift and wheel: size.
        <button type="button" className="text-teal underline" onClick={() => set({ painting: null })}>
          Done (Esc)
        </button>
      </div>
    </>
  );
}
