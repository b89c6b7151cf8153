import { useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { chosen, fieldAt } from '../api/schema';
import { massText, roundLengthText } from '../readout/units';
import { ShotContext } from '../shot/context';
import type { DrawnWeight } from '../shot/useDrawnWeight';
import { useBrush } from '../state/brush';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { weightAt } from '../tracks/WeightStore';
import { look, type Way } from './FitCamera';
import { cameraHere } from './ShotCamera';
import { picksInShot } from './useClick';

/** Name and mass of the piece under the pointer. */
export function HoverLabel() {
  const { handle, readouts } = useContext(ShotContext);
  const hovered = useView((view) => view.hovered);
  const painting = useBrush((hand) => hand.painting !== null);
  if (!hovered || painting) return null;
  const prop = handle.shot.document.props.find((p) => p.id === hovered.prop);
  if (!prop) return null;
  const volume = readouts[prop.id]?.pieces?.volumes[hovered.piece];
  const mass =
    volume === undefined
      ? readouts[prop.id]?.health.mass
      : volume * Number(chosen(prop.motion, 'mover').settings['density'] ?? 0);
  const name = volume === undefined ? prop.name : `${prop.break.prefix || 'piece'} ${hovered.piece + 1}`;
  return (
    <div
      className="pointer-events-none absolute z-10 rounded-md bg-ink/90 px-2 py-1 text-[12px] text-paper"
      style={{ left: hovered.x + 14, top: hovered.y + 14 }}
    >
      {name}
      {mass ? ` · ${massText(mass)}` : ''}
    </div>
  );
}

/** Says what a click does while a place is being picked. */
export function PickHint() {
  const { prop } = useContext(ShotContext);
  const picking = useView((view) => view.picking);
  const set = useView((view) => view.set);
  if (!picking || !prop) return null;
  return (
    <div
      className="absolute top-3 left-1/2 flex w-max max-w-[90%] -translate-x-1/2 items-center gap-3 rounded-md border border-teal bg-paper px-3 py-1.5"
      role="status"
    >
      Click{' '}
      {picking.kind === 'direction'
        ? 'a face that looks the right way'
        : picking.kind === 'more'
          ? (fieldAt(picking.path)['x-click'] ?? 'one place after the other')
          : 'the place'}{' '}
      on {picksInShot(picking.path) ? 'any prop' : prop.name}.
      <button type="button" className="text-teal underline" onClick={() => set({ picking: null })}>
        {picking.kind === 'more' ? 'Done (Esc)' : 'Cancel (Esc)'}
      </button>
    </div>
  );
}

const WAYS: [Way, string, string][] = [
  ['corner', 'All', 'F'],
  ['front', 'Front', 'Shift F'],
  ['side', 'Side', 'Shift D'],
  ['top', 'Top', 'Shift T'],
];

/** From where one looks: all of the shot, from one way. */
export function Views() {
  const picking = useView((view) => view.picking !== null);
  const painting = useBrush((hand) => hand.painting !== null);
  // What one is about stands there instead.
  if (picking || painting) return null;
  return (
    <div
      className="absolute top-2 right-2 flex gap-0.5 rounded-md text-[12px] group-data-[behind]/view:bg-card/85"
      role="group"
      aria-label="Look"
    >
      <CameraButton />
      {WAYS.map(([way, name, keys]) => (
        <button
          key={way}
          type="button"
          title={`${name} (${keys})`}
          className="rounded-md px-1.5 py-0.5 text-ink-2 hover:bg-well hover:text-ink"
          onClick={() => look(way)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** Looks through the camera of the shot; a shot without one gets it where one looks from. */
function CameraButton() {
  const { handle, numbers, tracks } = useContext(ShotContext);
  const { document } = handle.shot;
  const through = useView((view) => view.through);
  const frame = useFrame();
  const set = useView((view) => view.set);
  const on = document.camera.on;
  return (
    <button
      type="button"
      aria-pressed={on && through}
      title={on ? 'Through the camera of the shot (Shift C)' : 'Gives the shot a camera that sees this'}
      className={`rounded-md px-1.5 py-0.5 hover:bg-well hover:text-ink ${on && through ? 'bg-well font-semibold text-ink' : 'text-ink-2'}`}
      onClick={() => {
        if (!on) handle.edit((doc) => cameraHere(doc, { document, numbers, tracks, frame }));
        set({ through: !on || !through });
      }}
    >
      {on ? 'Camera' : 'Add a camera'}
    </button>
  );
}

/** How long things are, at the point one turns about. */
export function ScaleBar() {
  const [text, setText] = useState({ width: 80, label: '' });
  useEffect(() => {
    const update = () => {
      const probe = (window as unknown as { __yardScale?: () => number }).__yardScale?.();
      if (!probe) return;
      const round =
        [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100].find(
          (length) => length / probe > 60,
        ) ?? 100;
      setText({
        width: Math.min(200, round / probe),
        label: roundLengthText(round),
      });
    };
    const timer = window.setInterval(update, 400);
    return () => window.clearInterval(timer);
  }, []);
  return text.label === '' ? null : (
    <div className="pointer-events-none absolute bottom-2 left-2 rounded-md p-1 text-[12px] text-ink-2 group-data-[behind]/view:bg-card/85">
      <div className="h-1.5 border-x border-b border-ink-2" style={{ width: text.width }} />
      {text.label}
    </div>
  );
}

/** The ramp, where on it pieces let go (null: they do not let go by the weight), and what the weight is under the pointer. */
export function WeightLegend({
  weight,
  propId,
  threshold,
}: {
  weight: DrawnWeight;
  propId: string;
  threshold: number | null;
}) {
  const { name, seen, store } = weight;
  const hovered = useView((view) => view.hovered);
  const frame = useFrame();
  useSyncExternalStore(store.follow, () => store.version);
  const values = hovered?.prop === propId ? store.peek(frame) : undefined;
  const here = values && hovered ? weightAt(values, hovered.place) : null;
  return (
    <div
      className="pointer-events-none absolute right-3 bottom-3 w-44 rounded-md bg-card/90 p-2 text-[12px]"
      aria-label={`Legend: ${name} from 0 to 1`}
    >
      <div className="mb-0.5 flex justify-between">
        <span>{name} 0</span>
        {here === null ? null : (
          <span className="font-semibold tabular-nums" data-testid="weight-here">
            {here.toFixed(2)} here
          </span>
        )}
        <span>1</span>
      </div>
      <div
        className="relative h-2.5 rounded-sm"
        style={{ background: 'linear-gradient(90deg, #F3F1EB, #C9D3DC, #7F99B3, #3C5E86, #14284B)' }}
      >
        {threshold === null ? null : (
          <div className="absolute -top-0.5 h-3.5 w-[2px] bg-rust" style={{ left: `${threshold * 100}%` }} />
        )}
        {here === null ? null : (
          <div
            className="absolute -top-1 h-4.5 w-[3px] rounded-sm border border-paper bg-ink"
            style={{ left: `calc(${here * 100}% - 1px)` }}
          />
        )}
      </div>
      {threshold === null ? null : <div className="mt-0.5 text-rust">lets go above {threshold}</div>}
      {seen ? <div className="mt-0.5 text-ink-2">{seen}</div> : null}
      {store.trouble ? (
        <div role="alert" className="mt-0.5 text-error">
          {store.trouble}
        </div>
      ) : store.ready < store.frames ? (
        <div className="mt-0.5 text-ink-2" data-testid="weight-ready">
          {store.ready} of {store.frames} frames computed
        </div>
      ) : null}
    </div>
  );
}
