import { useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react';
import type * as THREE from 'three';
import { ShotContext } from '../shot/context';
import { useBrush } from '../state/brush';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import { changeOf, stepOf, type Held, type Part } from './drag';
import { eye, type Sight } from './eye';
import { moving } from './moving';
import { propThing, thingsOf, type Change, type Scene, type Thing } from './things';

const DIAL = 34;
/** The dial is open below, where the line hangs. */
const OPEN = 0.5;

interface Taken extends Held {
  thing: Thing;
  scene: Scene;
}

/**
 * Handles over the picture: a grip at each thing's place, a line hanging from it to the floor with a foot there, a dial about
 * the grip with a knob. Each part does one thing; the grip by keyboard too.
 */
export function Handles({
  baked,
  surface,
  sight = eye,
}: {
  /** While the bake is shown only what stands in the shot by itself can be taken: props are where it put them. */
  baked: boolean;
  /** The place of the props' surfaces under a place of the screen; one prop is looked through. */
  surface: (x: number, y: number, but: string | null) => THREE.Vector3 | null;
  /** How what stands in the picture is seen. */
  sight?: Sight;
}) {
  const { handle, numbers, tracks, propIndex, settled, weight } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const weightId = useView((view) => view.weightId);
  const force = useView((view) => view.force);
  const playing = useView((view) => view.playing);
  const picking = useView((view) => view.picking !== null);
  const painting = useBrush((hand) => hand.painting !== null);
  const frame = useView((view) => Math.round(view.frame));
  const document = handle.shot.document;
  const scene = useMemo<Scene>(
    () => ({ document, numbers, tracks, frame }),
    [document, numbers, tracks, frame],
  );
  const things = useMemo(
    () => thingsOf(scene, stage, propIndex, weightId, force).filter((thing) => !baked || thing.ofShot),
    [scene, stage, propIndex, weightId, force, baked],
  );
  const floor = document.planes.find((plane) => plane.on)?.height ?? 0;
  /** What is placed stands above the ground on which it is shown, not above the floor it fell on. */
  const footOf = useCallback(
    (thing: Thing, at: THREE.Vector3) => at.clone().setY(thing.whole ? 0 : floor),
    [floor],
  );
  const sheet = useRef<SVGSVGElement>(null);
  const groups = useRef(new Map<string, SVGGElement>());
  const taken = useRef<Taken | null>(null);
  const [says, setSays] = useState<{ x: number; y: number; text: string } | null>(null);
  const [held, setHeld] = useState(false);

  // The server has answered, or refused: what it has is shown.
  useEffect(() => {
    if (!settled || taken.current) return;
    moving.done();
    weight?.store.settle();
    eye.redraw();
  }, [settled, weight]);

  const place = useCallback(() => {
    for (const thing of things) {
      const group = groups.current.get(thing.key);
      if (!group) continue;
      const at = thing.place(clock.now);
      const grip = sight.screen(at);
      const foot = sight.screen(footOf(thing, at));
      group.style.display = grip && foot ? '' : 'none';
      if (!grip || !foot) continue;
      group.style.setProperty('--gx', `${grip.x}px`);
      group.style.setProperty('--gy', `${grip.y}px`);
      group.style.setProperty('--fx', `${foot.x}px`);
      group.style.setProperty('--fy', `${foot.y}px`);
      for (const line of group.querySelectorAll('line')) {
        line.setAttribute('x1', String(grip.x));
        line.setAttribute('y1', String(grip.y));
        line.setAttribute('x2', String(foot.x));
        line.setAttribute('y2', String(foot.y));
      }
    }
  }, [things, footOf, sight]);
  useEffect(() => {
    place();
    const stops = [eye.follow(place), clock.follow(place)];
    return () => stops.forEach((stop) => stop());
  }, [place]);

  const show = (thing: Thing, change: Change, of: Scene) => {
    if (!thing.prop) return;
    const index = of.document.props.findIndex((prop) => prop.id === thing.prop?.id);
    const changed = propThing({ ...of, document: thing.apply(of.document, change) }, index);
    if (changed?.prop) moving.show(changed.prop.id, changed.prop.pose);
    eye.redraw();
  };
  const apply = (thing: Thing, change: Change, of: Scene) => {
    handle.edit((doc) => thing.apply(doc, change));
    show(thing, change, of);
    weight?.store.draft(of.frame, thing.apply(of.document, change));
  };

  // A drag goes on wherever the pointer goes.
  const drag = useRef<(event: PointerEvent) => void>(() => undefined);
  drag.current = (event) => {
    const now = taken.current;
    const box = sheet.current?.getBoundingClientRect();
    if (!now || !box) return;
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const { change, says: text } = changeOf(
      now,
      x,
      y,
      event,
      (sx, sy) => (now.thing.whole ? null : surface(sx, sy, now.thing.prop?.id ?? null)),
      sight,
    );
    apply(now.thing, change, now.scene);
    setSays({ x, y, text });
  };
  const { hold } = handle;
  useEffect(() => {
    if (!held) return;
    const move = (event: PointerEvent) => drag.current(event);
    const letGo = () => {
      taken.current = null;
      setSays(null);
      setHeld(false);
      hold(false);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', letGo);
    window.addEventListener('pointercancel', letGo);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', letGo);
      window.removeEventListener('pointercancel', letGo);
    };
  }, [held, hold]);

  // A grip under the brush would be dragged instead of painted over.
  if (playing || picking || painting || things.length === 0) return null;
  const part = (thing: Thing, which: Part) => ({
    'data-part': which,
    onPointerDown: (event: React.PointerEvent<SVGElement>) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
      const origin = thing.place(frame);
      taken.current = {
        thing,
        scene,
        part: which,
        origin,
        foot: footOf(thing, origin),
        x: event.clientX - (box?.left ?? 0),
        y: event.clientY - (box?.top ?? 0),
      };
      handle.hold(true);
      setHeld(true);
    },
  });
  // Of several, only the one that the pointer or the keyboard is at shows all it can do.
  const quiet = things.length > 1 ? 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100' : '';
  return (
    <div className="pointer-events-none absolute inset-0 z-10" data-testid="handles">
      <svg ref={sheet} className="h-full w-full">
        {things.map((thing) => (
          <g
            key={thing.key}
            data-handle={thing.key}
            className="group"
            ref={(group) => {
              if (group) groups.current.set(thing.key, group);
              else groups.current.delete(thing.key);
              if (group) place();
            }}
          >
            <line className="pointer-events-none stroke-teal" strokeWidth={1.5} strokeDasharray="5 3" />
            <line
              className="pointer-events-auto cursor-ns-resize stroke-transparent"
              strokeWidth={12}
              {...part(thing, 'line')}
            >
              <title>{`Drag: ${thing.name} up and down`}</title>
            </line>
            <g style={{ transform: 'translate(var(--fx), var(--fy))' }}>
              <path
                d="M0 -5 L11 0 L0 5 L-11 0 Z"
                className="pointer-events-auto cursor-move fill-card stroke-teal"
                strokeWidth={2}
                {...part(thing, 'foot')}
              >
                <title>{`Drag: ${thing.name} over the floor`}</title>
              </path>
            </g>
            <g style={{ transform: 'translate(var(--gx), var(--gy))' }}>
              {thing.turns ? (
                <>
                  <path d={arc(DIAL)} className={`fill-none stroke-teal ${quiet}`} strokeWidth={1.5} />
                  <path
                    d={arc(DIAL)}
                    className="pointer-events-auto cursor-grab fill-none stroke-transparent"
                    strokeWidth={12}
                    {...part(thing, 'dial')}
                  >
                    <title>{`Drag: turn ${thing.name}`}</title>
                  </path>
                </>
              ) : null}
              {thing.sizes ? (
                <rect
                  x={DIAL * 0.7 - 5}
                  y={-DIAL * 0.7 - 5}
                  width={10}
                  height={10}
                  rx={2}
                  className={`pointer-events-auto cursor-nesw-resize fill-card stroke-teal ${quiet}`}
                  strokeWidth={2}
                  {...part(thing, 'knob')}
                >
                  <title>{`Drag: size of ${thing.name}`}</title>
                </rect>
              ) : null}
              <circle
                r={8}
                tabIndex={0}
                role="button"
                aria-label={`Move ${thing.name}: arrow keys, Page Up and Page Down`}
                className="pointer-events-auto cursor-move fill-teal stroke-card outline-offset-2"
                strokeWidth={2}
                {...part(thing, 'grip')}
                onKeyDown={(event) => {
                  const change = stepOf(event.key, event.shiftKey, sight);
                  if (!change) return;
                  event.preventDefault();
                  event.stopPropagation();
                  apply(thing, change, scene);
                }}
              >
                <title>{`Drag: move ${thing.name}`}</title>
              </circle>
              {things.length > 1 ? (
                <text
                  x={0}
                  y={-DIAL - 8}
                  textAnchor="middle"
                  className="pointer-events-none fill-teal text-[12px]"
                >
                  {thing.name}
                </text>
              ) : null}
            </g>
          </g>
        ))}
      </svg>
      {says ? (
        <div
          className="absolute rounded-md bg-ink/90 px-2 py-1 text-[12px] text-paper tabular-nums"
          style={{ left: says.x + 16, top: says.y + 10 }}
          role="status"
        >
          {says.text}
        </div>
      ) : null}
      {held ? (
        <div className="absolute top-3 left-1/2 -translate-x-1/2 rounded-md bg-card/90 px-2 py-1 text-[12px] text-ink-2">
          Shift: one axis · Ctrl: grid{taken.current?.thing.whole ? null : ' · Alt: onto a surface'}
        </div>
      ) : null}
    </div>
  );
}

/** Most of a circle, open below. */
function arc(radius: number): string {
  const [x, y] = [radius * Math.sin(OPEN), radius * Math.cos(OPEN)];
  return `M${-x} ${y} A${radius} ${radius} 0 1 1 ${x} ${y}`;
}
