import { ClipboardPaste, Copy, FlipHorizontal2, StretchHorizontal, Trash2 } from 'lucide-react';
import { useContext, useEffect, useMemo, useState } from 'react';
import { ShotContext } from '../shot/context';
import { clock, seek } from '../state/frame';
import {
  copyKeys,
  deleteKeys,
  keysBelow,
  mirrorKeys,
  moveKeys,
  pasteKeys,
  stretchKeys,
  type KeyRef,
} from '../state/keyEdits';
import type { Path } from '../state/document';
import { useView } from '../state/view';
import { IconButton } from '../ui/controls';
import { whileHeld } from '../ui/pointer';

/**
 * The keys of the open prop (in Motion those of the forces too, in Bake those of the camera and the light), one mark a frame for all numbers. Click chooses, Shift adds, a drag over free room chooses a
 * range; chosen keys are dragged, copied, mirrored, stretched and deleted.
 */
export function KeyRow({
  x,
  at,
  y,
  height,
  width,
}: {
  x: (frame: number) => number;
  /** Frame at a place of the screen, whole. */
  at: (clientX: number) => number;
  y: number;
  height: number;
  width: number;
}) {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const { document } = handle.shot;
  const stage = useView((view) => view.stage);
  const camera = stage === 'bake' && document.camera.on;
  // In Bake the whole shot is looked at: how it plays, its camera and its light.
  const plays = stage === 'bake' && document.plays === 'keys';
  const lit = stage === 'bake' && keysBelow(document, ['lights']).length > 0;
  const whole = camera || lit || plays;
  const keys = useMemo(() => {
    const bases: Path[] = whole
      ? [...(camera ? [['camera']] : []), ...(lit ? [['lights']] : []), ...(plays ? [['shows']] : [])]
      : [...(prop ? [['props', propIndex]] : []), ...(stage === 'motion' ? [['forces']] : [])];
    return bases.flatMap((base) => keysBelow(document, base));
  }, [whole, camera, lit, plays, document, prop, propIndex, stage]);
  const whose = whole
    ? [camera ? 'the camera' : '', lit ? 'the light' : '', plays ? 'how it plays' : '']
        .filter(Boolean)
        .join(' and ')
    : null;
  const clip = useView((view) => view.copied);
  const set = useView((view) => view.set);
  const [chosen, setChosen] = useState<number[]>([]);
  const [range, setRange] = useState<[number, number] | null>(null);
  const [shift, setShift] = useState(0);
  useEffect(() => setChosen([]), [prop?.id, camera]);
  const frames = [...new Set(keys.map((key) => key.frame))].sort((a, b) => a - b);
  const here = chosen.filter((frame) => frames.includes(frame));
  const refs = (of: number[]): KeyRef[] => keys.filter((key) => of.includes(key.frame));
  const middle = y + height / 2;

  const act = (change: 'copy' | 'paste' | 'mirror' | 'double' | 'delete') => {
    const now = Math.round(clock.now);
    if (change === 'copy') set({ copied: copyKeys(document, refs(here)) });
    else if (change === 'paste') {
      const put = clip;
      if (put) handle.edit((doc) => pasteKeys(doc, put, now));
    } else if (change === 'mirror') handle.edit((doc) => mirrorKeys(doc, refs(here)));
    else if (change === 'double') {
      const first = Math.min(...here);
      handle.edit((doc) => stretchKeys(doc, refs(here), 2));
      setChosen(here.map((frame) => first + 2 * (frame - first)));
    } else {
      handle.edit((doc) => deleteKeys(doc, refs(here)));
      setChosen([]);
    }
  };
  const nudge = (by: number) => {
    handle.edit((doc) => moveKeys(doc, refs(here), by));
    setChosen(here.map((frame) => frame + by));
  };

  return (
    <>
      <svg
        className="absolute inset-x-0 touch-none"
        style={{ top: y, height }}
        width={width}
        height={height}
        data-testid="key-row"
        onPointerDown={(event) => {
          if (event.target !== event.currentTarget || event.button !== 0) return;
          event.stopPropagation();
          const from = at(event.clientX);
          const before = event.shiftKey ? here : [];
          let [low, high] = [from, from];
          setChosen(before);
          whileHeld(
            (now) => {
              const to = at(now.clientX);
              [low, high] = [Math.min(from, to), Math.max(from, to)];
              setRange([low, high]);
            },
            () => {
              setRange(null);
              // A click over free room goes there, as anywhere on the strip.
              if (low === high) seek(low);
              setChosen([
                ...new Set([...before, ...frames.filter((frame) => frame >= low && frame <= high)]),
              ]);
            },
          );
        }}
      >
        {range ? (
          <rect
            x={x(range[0])}
            width={Math.max(1, x(range[1]) - x(range[0]))}
            y={1}
            height={height - 2}
            className="fill-teal-wash stroke-teal"
          />
        ) : null}
        {frames.map((frame) => {
          const is = here.includes(frame);
          return (
            <path
              key={frame}
              d={`M${x(frame + (is ? shift : 0))} ${height / 2 - 6}l5 6-5 6-5-6z`}
              role="button"
              tabIndex={0}
              aria-pressed={is}
              aria-label={`Keys at frame ${frame}`}
              data-key={frame}
              className={`cursor-ew-resize ${is ? 'fill-rust stroke-ink' : 'fill-teal stroke-card'}`}
              onPointerDown={(event) => {
                if (event.button !== 0) return;
                event.stopPropagation();
                const before = is ? here : event.shiftKey ? [...here, frame] : [frame];
                setChosen(event.shiftKey && is ? here.filter((other) => other !== frame) : before);
                const from = at(event.clientX);
                let by = 0;
                whileHeld(
                  (now) => setShift((by = at(now.clientX) - from)),
                  () => {
                    setShift(0);
                    if (by === 0) return;
                    handle.edit((doc) => moveKeys(doc, refs(before), by));
                    setChosen(before.map((each) => each + by));
                  },
                );
              }}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
                if (event.key === 'Enter' || event.key === ' ')
                  setChosen(event.shiftKey ? [...here, frame] : [frame]);
                else if (event.key === 'Delete' || event.key === 'Backspace') act('delete');
                else if ((event.ctrlKey || event.metaKey) && event.key === 'c') act('copy');
                else if ((event.ctrlKey || event.metaKey) && event.key === 'v') act('paste');
                else if (by && event.altKey && here.length > 0) nudge(by);
                else return;
                event.preventDefault();
                event.stopPropagation();
              }}
            />
          );
        })}
      </svg>
      <span
        className="pointer-events-none absolute right-3.5 text-[11px] text-ink-2"
        style={{ top: middle - 8 }}
      >
        {frames.length > 0 && here.length === 0
          ? whose
            ? `keys of ${whose}`
            : `keys of ${prop?.name ?? ''}${stage === 'motion' ? ' and the forces' : ''}`
          : null}
        {frames.length === 0
          ? whose
            ? `no keys on ${whose}`
            : `no keys on ${prop?.name ?? 'this prop'}`
          : null}
      </span>
      {here.length > 0 || clip ? (
        <div
          className="absolute right-3 flex items-center rounded-md border border-line bg-card text-[12px] shadow-sm"
          style={{ top: middle + 10 }}
          role="toolbar"
          aria-label="Chosen keys"
        >
          {here.length > 0 ? (
            <>
              <span className="px-2 text-ink-2">
                {refs(here).length} {refs(here).length === 1 ? 'key' : 'keys'}
              </span>
              <IconButton label="Copy keys" keys="Ctrl C" className="!h-7" onClick={() => act('copy')}>
                <Copy size={14} />
              </IconButton>
            </>
          ) : null}
          {clip ? (
            <IconButton label="Put keys here" keys="Ctrl V" className="!h-7" onClick={() => act('paste')}>
              <ClipboardPaste size={14} />
            </IconButton>
          ) : null}
          {here.length > 1 ? (
            <>
              <IconButton label="Mirror keys in time" className="!h-7" onClick={() => act('mirror')}>
                <FlipHorizontal2 size={14} />
              </IconButton>
              <IconButton label="Twice as far apart" className="!h-7" onClick={() => act('double')}>
                <StretchHorizontal size={14} />
              </IconButton>
            </>
          ) : null}
          {here.length > 0 ? (
            <IconButton label="Delete keys" keys="Del" className="!h-7" onClick={() => act('delete')}>
              <Trash2 size={14} />
            </IconButton>
          ) : null}
        </div>
      ) : null}
    </>
  );
}
