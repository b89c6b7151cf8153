import { useContext, useMemo, useState } from 'react';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import { frontsOf, frontsOfForces, type Front } from '../state/fronts';
import { useView } from '../state/view';
import { whileHeld } from '../ui/pointer';

const HEIGHT = 12;
const LANES = 3;
/** Within so many pixels of an end one takes the end. */
const END = 7;

type Part = 'all' | 'from' | 'to';

/** When the open prop lets go and the sources of its weights act (in Motion the forces too), as bars: dragged as a whole, or trimmed at an end. */
export function Bars({
  x,
  at,
  y,
  width,
}: {
  x: (frame: number) => number;
  at: (clientX: number) => number;
  y: number;
  width: number;
}) {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const last = handle.shot.document.frames;
  const stage = useView((view) => view.stage);
  const { document } = handle.shot;
  const fronts = useMemo(
    () => [...frontsOf(prop, propIndex), ...(stage === 'motion' ? frontsOfForces(document) : [])],
    [document, prop, propIndex, stage],
  );
  const [moved, setMoved] = useState<{ index: number; part: Part; by: number } | null>(null);
  if (fronts.length === 0) return null;

  /** Where it would be; an end never passes the other. */
  const shifted = (front: Front, part: Part, by: number): [number, number | null] => {
    const { from, to } = front;
    if (to === null) return [Math.max(1, from + by), null];
    if (part === 'from') return [Math.min(to, Math.max(1, from + by)), to];
    if (part === 'to') return [from, Math.max(from, to + by)];
    const step = Math.max(1 - from, by);
    return [from + step, to + step];
  };
  const store = (front: Front, [from, to]: [number, number | null]) =>
    handle.edit((doc) =>
      front.fields.reduce(
        (next, field, k) =>
          write(next, [...front.path, field], k === 0 ? from : front.lasts ? (to ?? from) - from : to),
        doc,
      ),
    );

  return (
    <svg
      className="pointer-events-none absolute inset-x-0"
      style={{ top: y }}
      width={width}
      height={LANES * HEIGHT}
    >
      {fronts.map((front, index) => {
        const is = moved?.index === index ? moved : null;
        const [from, to] = is ? shifted(front, is.part, is.by) : [front.from, front.to];
        const [left, right] = [x(from), x(Math.min(last, to ?? last))];
        const top = (index % LANES) * HEIGHT;
        return (
          <g key={front.path.join('/')}>
            <rect
              x={left}
              width={Math.max(6, right - left)}
              y={top + 1}
              height={HEIGHT - 2}
              rx={3}
              role="button"
              tabIndex={0}
              aria-label={`${front.title}, frame ${from}${to === null ? ' on' : ` to ${to}`}: arrow keys move it, with Shift its end`}
              data-bar={index}
              className={`pointer-events-auto fill-teal-wash stroke-teal ${is && is.part !== 'all' ? 'cursor-col-resize' : 'cursor-grab'}`}
              onPointerDown={(event) => {
                if (event.button !== 0) return;
                event.stopPropagation();
                const box = event.currentTarget.getBoundingClientRect();
                const part: Part =
                  to === null || box.width < 3 * END
                    ? 'all'
                    : event.clientX - box.left < END
                      ? 'from'
                      : box.right - event.clientX < END
                        ? 'to'
                        : 'all';
                const begun = at(event.clientX);
                let by = 0;
                whileHeld(
                  (now) => setMoved({ index, part, by: (by = at(now.clientX) - begun) }),
                  () => {
                    setMoved(null);
                    if (by !== 0) store(front, shifted(front, part, by));
                  },
                );
              }}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
                if (!by) return;
                event.preventDefault();
                event.stopPropagation();
                store(front, shifted(front, event.shiftKey ? 'to' : 'all', by));
              }}
            >
              <title>{`${front.title}: ${from}${to === null ? '' : ` to ${to}`}. Drag it, or an end.`}</title>
            </rect>
            <text x={left + 6} y={top + HEIGHT - 3} fontSize={10} className="fill-teal">
              {front.title.toLowerCase()}
              {is ? ` ${from}${to === null ? '' : `–${to}`}` : ''}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
