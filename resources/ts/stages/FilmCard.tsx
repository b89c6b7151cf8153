import { Aperture, Blend, Film, Images, Layers, Square, type LucideIcon } from 'lucide-react';
import { useContext, useEffect, useRef, useState } from 'react';
import { within } from '../cues/span';
import { canFilm, foldersOf, takeFilm, type Order } from '../film/film';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { fileNameOf, save } from '../ui/save';
import { Select } from '../ui/Select';
import { leftText } from '../ui/left';

/** What can be taken, and what it is for. */
const KINDS: { kind: Order['kind']; label: string; icon: LucideIcon; what: string }[] = [
  { kind: 'webm', label: 'WebM', icon: Film, what: 'A film to show, numbered.' },
  { kind: 'png', label: 'PNGs', icon: Images, what: 'See-through, with shadows, for a plate.' },
  {
    kind: 'passes',
    label: 'Passes',
    icon: Blend,
    what: 'Mattes, normals, weight; depth and motion as EXR.',
  },
  {
    kind: 'layers',
    label: 'Layers',
    icon: Layers,
    what: 'Each prop alone and the ground; added up the whole.',
  },
  { kind: 'exr', label: 'EXRs', icon: Aperture, what: 'All of these in one file a frame, linear.' },
];

/** How long the shutter is open, of a frame. */
const BLURS: [string, string][] = [
  ['0', 'sharp'],
  ['0.25', 'blurred ¼ frame'],
  ['0.5', 'blurred ½ frame'],
  ['1', 'blurred 1 frame'],
];

const HEIGHTS = ['360', '540', '720', '1080', '2160'];

/** A film of a bake, of these props, to show, or its pictures to lay over others, taken here in the page. */
export function FilmCard({ frames, props }: { frames: number; props: string[] }) {
  const { shot } = useContext(ShotContext).handle;
  const [height, setHeight] = useState('720');
  const looped = within(
    useView((view) => view.span),
    frames,
  );
  const [whole, setWhole] = useState(false);
  const [blur, setBlur] = useState('0');
  const [done, setDone] = useState<{ frame: number; since: number } | null>(null);
  const [error, setError] = useState('');
  const abort = useRef<AbortController | null>(null);
  useEffect(() => () => abort.current?.abort(), []);
  const { from, to } = looped && !whole ? looped : { from: 1, to: frames };
  const count = to - from + 1;
  const take = (kind: Order['kind']) => {
    const controller = new AbortController();
    abort.current = controller;
    setError('');
    setDone({ frame: 0, since: performance.now() });
    const name = fileNameOf(shot.name);
    const order: Order = {
      kind,
      props: foldersOf(
        shot.document.props,
        // Nothing is seen of what stands for a thing of the backdrop.
        props.filter((id) => !shot.document.props.find((prop) => prop.id === id)?.look.standIn),
      ),
      from,
      to,
      first: shot.document.firstFrame,
      fps: shot.document.fps,
      height: Number(height),
      blur: Number(blur),
      named: shot.name,
      name,
    };
    takeFilm(order, controller.signal, (frame) => setDone((at) => at && { ...at, frame }))
      .then((blob) => save(blob, `${name}.${kind === 'webm' ? 'webm' : `${kind}.zip`}`))
      .catch((trouble: unknown) => {
        if (!controller.signal.aborted)
          setError(trouble instanceof Error ? trouble.message : 'The film could not be taken.');
      })
      .finally(() => setDone(null));
  };
  if (done) return <Taking {...done} count={count} stop={() => abort.current?.abort()} />;
  return (
    <div data-testid="film" data-status="">
      <div className="flex flex-wrap items-center gap-2">
        <Select
          id="film-height"
          narrow
          label="Height of the picture"
          value={height}
          options={HEIGHTS.map((one) => [one, `${one} high`])}
          onChange={setHeight}
        />
        <Select id="film-blur" narrow label="Motion blur" value={blur} options={BLURS} onChange={setBlur} />
        {looped ? (
          <Select
            id="film-frames"
            narrow
            label="Frames"
            value={whole ? 'all' : 'looped'}
            options={[
              ['looped', `${looped.from} to ${looped.to}`],
              ['all', `all ${frames}`],
            ]}
            onChange={(value) => setWhole(value === 'all')}
          />
        ) : null}
      </div>
      <ul className="mt-2 space-y-1.5">
        {KINDS.map(({ kind, label, icon: Icon, what }) => (
          <li key={kind} className="flex items-center gap-3">
            <Button
              data-testid={`film-${kind}`}
              onClick={() => take(kind)}
              disabled={kind === 'webm' && !canFilm()}
              className="w-24 shrink-0"
            >
              <Icon size={14} /> {label}
            </Button>
            <span className="leading-snug text-ink-2">{what}</span>
          </li>
        ))}
      </ul>
      {canFilm() ? null : (
        <p className="mt-1 text-ink-2">
          This browser encodes films only where the page comes from this machine or by https. Pictures can be
          taken.
        </p>
      )}
      {error ? (
        <p role="alert" className="mt-1 text-error">
          {error}
        </p>
      ) : null}
    </div>
  );
}

/** How far it is, and how much longer it takes. */
function Taking({
  frame,
  since,
  count,
  stop,
}: {
  frame: number;
  since: number;
  count: number;
  stop: () => void;
}) {
  const left = ((performance.now() - since) / 1000 / Math.max(1, frame)) * (count - frame);
  return (
    <div data-testid="film" data-status="running">
      <div
        className="mb-1 h-2 overflow-hidden rounded-sm bg-well"
        role="progressbar"
        aria-label="Taking pictures"
        aria-valuemin={0}
        aria-valuemax={count}
        aria-valuenow={frame}
      >
        <div className="h-full bg-teal" style={{ width: `${(100 * frame) / count}%` }} />
      </div>
      <p className="mb-1 text-ink-2">
        {frame} of {count}
        {frame > 0 ? `, ${leftText(left)}` : ''}
      </p>
      <Button onClick={stop}>
        <Square size={13} /> Stop
      </Button>
    </div>
  );
}
