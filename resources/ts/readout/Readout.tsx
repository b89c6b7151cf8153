import { PanelRightClose, PanelRightOpen } from 'lucide-react';
import { useContext, useMemo, type ReactNode } from 'react';
import { chosen } from '../api/schema';
import type { BakeState, ReadoutRow } from '../api/types';
import { ShotContext } from '../shot/context';
import { frontsOf } from '../state/fronts';
import { seek, useFrame } from '../state/frame';
import { useView } from '../state/view';
import { FindingTexts } from '../stages/Findings';
import { Button, IconButton } from '../ui/controls';
import { counted, playsOtherwise, showsBake } from '../shot/summary';
import { bakeName, inText, type Beside } from '../shot/useBeside';
import { Histogram } from './Histogram';
import { PieceTable } from './PieceTable';
import { WeightOverTime } from './WeightOverTime';
import { Plot } from './Plot';
import { exact, grouped, volumeText, massText, lengthText } from './units';

/** The numbers of the open stage. */
export function Readout() {
  const open = useView((view) => view.readout);
  const stage = useView((view) => view.stage);
  const set = useView((view) => view.set);
  const toggle = (
    <IconButton
      label={open ? 'Put the readout away' : 'Show the readout'}
      keys="R"
      onClick={() => set({ readout: !open })}
    >
      {open ? <PanelRightClose size={16} /> : <PanelRightOpen size={16} />}
    </IconButton>
  );
  if (!open) return <aside className="border-l border-line bg-card">{toggle}</aside>;
  return (
    <aside
      aria-label="Readout"
      className="relative min-h-0 overflow-y-auto border-l border-line bg-card px-3 py-2 [scrollbar-gutter:stable]"
      data-testid="readout"
    >
      <div className="mb-1 flex items-center justify-between">
        <h2 className="font-semibold">Readout</h2>
        {toggle}
      </div>
      {stage === 'prop' ? (
        <Health />
      ) : stage === 'break' ? (
        <Breaking />
      ) : showsBake(stage) ? (
        <Baking />
      ) : (
        <>
          <Waiting />
          <WeightOverTime />
        </>
      )}
    </aside>
  );
}

function Row({ name, children, bad }: { name: string; children: ReactNode; bad?: boolean }) {
  return (
    <div className="flex justify-between gap-2 border-b border-line/60 py-1">
      <dt className="text-ink-2">{name}</dt>
      <dd className={bad ? 'text-error' : ''}>{children}</dd>
    </div>
  );
}

/** What is known of the open prop; until then, what to show instead. */
function useReadout(doing: string) {
  const { prop, readouts, readoutError } = useContext(ShotContext);
  const waiting = readoutError ? (
    <p role="alert" className="text-error">
      {readoutError}
    </p>
  ) : (
    <p className="text-ink-2">{doing}</p>
  );
  return { prop, readout: readoutError ? undefined : prop && readouts[prop.id], waiting };
}

function Health() {
  const { prop, readout, waiting } = useReadout('Measuring …');
  if (!prop || !readout) return waiting;
  const h = readout.health;
  return (
    <dl data-testid="health">
      <Row name="Triangles">{h.triangles.toLocaleString('en')}</Row>
      <Row name="Vertices">{h.vertices.toLocaleString('en')}</Row>
      <Row name="Watertight" bad={!h.watertight}>
        {h.watertight
          ? 'yes'
          : `no, ${h.openEdges > 0 ? `${h.openEdges} open edges` : `${h.crowdedEdges} crowded edges`}`}
      </Row>
      {h.parts > 1 ? <Row name="Loose parts">{h.parts}</Row> : null}
      <Row name="Volume">{h.watertight ? volumeText(Math.abs(h.volume)) : '–'}</Row>
      {/* What is staged or drifts weighs nothing. */}
      <Row name="Mass">{h.watertight && h.mass !== 0 ? massText(Math.abs(h.mass)) : '–'}</Row>
      <Row name="Size">
        {[0, 1, 2].map((k) => lengthText((h.bounds[1][k] ?? 0) - (h.bounds[0][k] ?? 0))).join(' × ')}
      </Row>
      {h.watertight && h.volume < 0 ? (
        <p className="mt-2 text-error">
          The faces point inwards. Switch Repair on, and they are turned around.
        </p>
      ) : null}
      {h.watertight ? null : (
        <p className="mt-2 text-ink-2">
          Without a closed surface it has no inside: it can be cloth, or something to fall on, but cannot be
          broken into solid pieces.
          {h.repairs === null && chosen(prop.source, 'kind').has('upload')
            ? ' Switch Repair on to close it.'
            : ''}
        </p>
      )}
      {h.repairs ? (
        <div className="mt-2" data-testid="repairs">
          <p className="font-semibold">Repair</p>
          {h.repairs.length === 0 ? <p className="text-ink-2">Nothing to mend.</p> : null}
          <ul className="ml-4 list-disc text-ink-2">
            {h.repairs.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      ) : null}
    </dl>
  );
}

/** What weighs nothing (it drifts, or goes a set way) has a volume alone. */
const sizeText = ({ volume, mass }: { volume: number; mass: number }) =>
  mass > 0 ? `${volumeText(volume)} · ${massText(mass)}` : volumeText(volume);

function Breaking() {
  const { prop, readout, waiting } = useReadout('Breaking …');
  if (!prop || !readout) return waiting;
  const pieces = readout.pieces;
  if (!pieces)
    return (
      <p className="text-ink-2">
        {readout.health.watertight
          ? 'The prop stays whole.'
          : 'The mesh is not watertight, so it cannot be broken into solid pieces. See Prop.'}
      </p>
    );
  return (
    <>
      <p className="mb-2">
        <span className="text-[20px] font-semibold" data-testid="piece-count">
          {pieces.count.toLocaleString('en')}
        </span>{' '}
        pieces{pieces.core ? ', one of them the core' : ''}
      </p>
      <Histogram volumes={pieces.core ? pieces.volumes.slice(1) : pieces.volumes} />
      <dl className="mt-2">
        <Row name="Largest">{sizeText(pieces.largest)}</Row>
        <Row name="Mean">{volumeText(pieces.mean)}</Row>
        <Row name="Smallest">{sizeText(pieces.smallest)}</Row>
        <Row name="Largest to mean">{(pieces.largest.volume / pieces.mean).toFixed(1)} ×</Row>
        {pieces.joined > 0 ? <Row name="Slivers joined">{pieces.joined}</Row> : null}
        {pieces.discarded > 0 ? <Row name="Taken away">{volumeText(pieces.discarded)}</Row> : null}
      </dl>
      {pieces.notes.map((note) => (
        <p key={note} className="mt-2 text-warn" data-testid="break-note">
          {note}
        </p>
      ))}
      <PieceTable
        density={Number(chosen(prop.motion, 'mover').settings['density'] ?? 0)}
        prefix={prop.break.prefix || 'piece'}
      />
    </>
  );
}

function Waiting() {
  const { prop, propIndex, handle } = useContext(ShotContext);
  const frame = useFrame();
  if (!prop) return null;
  const trigger = chosen(prop.release, 'trigger');
  const cue = handle.shot.document.cues.find((entry) => entry.id === trigger.settings['cue']);
  const due = cue?.frame ?? (trigger.settings['frame'] as number | undefined);
  const fronts = frontsOf(prop, propIndex);
  return (
    <>
      <dl>
        <Row name="Frame">{frame}</Row>
        {fronts.map((front, k) => (
          <Row key={k} name={front.title}>
            {front.to === null
              ? `since frame ${front.from}`
              : `${Math.min(Math.max(0, frame - front.from), front.to - front.from)} of ${front.to - front.from} f`}
          </Row>
        ))}
        {due === undefined ? null : due >= frame ? (
          <Row name="Lets go in">{due - frame} f</Row>
        ) : (
          <Row name="Let go">{frame - due} f ago</Row>
        )}
      </dl>
      {trigger.has('found') ? (
        <p className="mt-2 text-ink-2">
          When it touches is found by the bake; the ridge below shows it then.
        </p>
      ) : null}
      <FindingTexts />
    </>
  );
}

/** Frame, let go, moving, energy, fastest and hardest touch, each over the frames. */
function columnsOf(rows: ReadoutRow[]): number[][] {
  return [0, 1, 2, 3, 4, 5].map((c) => rows.map((row) => row[c] ?? 0));
}

function firstRelease(rows: ReadoutRow[]): string {
  return String(rows.find((row) => row[1] > 0)?.[0] ?? '–');
}

/** Null: something moves to the end. */
function restingFrom(rows: ReadoutRow[]): number | null {
  const last = rows.findLast((row) => row[2] > 0)?.[0] ?? 0;
  return last === rows.at(-1)?.[0] ? null : last + 1;
}

/** Puts dots on what moves. */
function ShowStirring() {
  const on = useView((view) => view.stirring);
  return (
    <Button
      look="quiet"
      aria-pressed={on}
      title="Dots on what moves at the frame shown: all that is faster than the speed below which it counts as still"
      className={`!h-auto !px-1.5 ml-1 ${on ? 'text-teal' : 'text-ink-2'}`}
      onClick={() => useView.getState().set({ stirring: !on })}
    >
      dots
    </Button>
  );
}

/** How much has not come to rest, and the way to it. */
function StillMoving({ rows }: { rows: ReadoutRow[] }) {
  const moving = rows.at(-1)?.[2] ?? 0;
  return (
    <Button
      look="quiet"
      className="!h-auto !px-0 underline decoration-dotted underline-offset-4"
      title="Show what"
      onClick={() => {
        seek(rows.at(-1)?.[0] ?? 1);
        useView.getState().set({ stirring: true });
      }}
    >
      not yet, {grouped(moving)} still {moving === 1 ? 'moves' : 'move'}
    </Button>
  );
}

/** So many differences are listed. */
const SAID = 6;

/** What two bakes are of, and what the one that is shown has otherwise. */
function Compared({ beside: { bake, differences }, shown }: { beside: Beside; shown: BakeState }) {
  return (
    <div className="mb-2 rounded-md border border-line p-2" data-testid="comparison">
      <p className="font-semibold">
        From {inText(bakeName(bake))} to {inText(bakeName(shown))}
      </p>
      {differences.length === 0 ? (
        <p className="text-ink-2">Nothing that moves it was changed.</p>
      ) : (
        <ul className="ml-4 list-disc">
          {differences.slice(0, SAID).map((text) => (
            <li key={text}>{text}</li>
          ))}
          {differences.length > SAID ? <li>and {differences.length - SAID} more</li> : null}
        </ul>
      )}
      <p className="mt-1 text-[12px] text-ink-2">{bakeName(bake)} is dashed and in brackets.</p>
    </div>
  );
}

function Baking() {
  const { rows, handle, bake, beside } = useContext(ShotContext);
  const last = handle.shot.document.frames;
  const columns = useMemo(() => columnsOf(rows), [rows]);
  const [, othersReleased, othersMoving, othersEnergy] = useMemo(
    () => [0, 1, 2, 3].map((column) => beside.map((one) => columnsOf(one.rows)[column] ?? [])),
    [beside],
  );
  const [only] = beside.length === 1 ? beside : [];
  if (rows.length === 0)
    return (
      <p className="text-ink-2">
        {bake
          ? 'The first frame is on its way.'
          : 'Bake to see when pieces let go, how many move, and how fast it comes to rest.'}
      </p>
    );
  const [frames = [], released = [], moving = [], energy = [], speed = [], impulse = []] = columns;
  const count = counted(handle.shot.document);
  return (
    <>
      {bake && only ? <Compared beside={only} shown={bake} /> : null}
      {beside.length > 1 ? <p className="mb-2 text-ink-2">Dashed: what it is compared with.</p> : null}
      <Plot
        title="Let go"
        unit={count.many}
        one={count.one}
        frames={frames}
        values={released}
        others={othersReleased}
        last={last}
        colour="--rust"
        filled
      />
      <Plot
        title="Moving"
        unit={count.many}
        one={count.one}
        frames={frames}
        values={moving}
        others={othersMoving}
        last={last}
        colour="--ink-2"
        action={beside.length === 0 ? <ShowStirring /> : null}
      />
      {/* Only hard pieces weigh anything. */}
      {energy.some((joules) => joules > 0) ? (
        <Plot
          title="Kinetic energy"
          unit="J"
          frames={frames}
          values={energy}
          others={othersEnergy}
          last={last}
          colour="--teal"
        />
      ) : null}
      {/* Backwards nothing comes to rest. */}
      {!playsOtherwise(handle.shot.document) ? (
        <dl className="mt-1">
          <Row name="First lets go at">
            {firstRelease(rows)}
            {only ? ` (${firstRelease(only.rows)})` : ''}
          </Row>
          <Row name="At rest from">
            {only
              ? `${restingFrom(rows) ?? 'not yet'} (${restingFrom(only.rows) ?? 'not yet'})`
              : (restingFrom(rows) ?? <StillMoving rows={rows} />)}
          </Row>
        </dl>
      ) : null}
      <Touches frames={frames} speed={speed} impulse={impulse} last={last} />
    </>
  );
}

/** How hard what waits for a touch was struck: who asks for more than comes sees by how much. */
function Touches({
  frames,
  speed,
  impulse,
  last,
}: {
  frames: number[];
  speed: number[];
  impulse: number[];
  last: number;
}) {
  const { document } = useContext(ShotContext).handle.shot;
  const hardest = (of: number[]) => of.reduce((most, one, k) => (one > (of[most] ?? 0) ? k : most), 0);
  const [fastest, heaviest] = [hardest(speed), hardest(impulse)];
  if (!speed[fastest]) return null;
  const weighed = document.props.some(
    (prop) => prop.on && Number(chosen(prop.release, 'trigger').settings['impulse'] ?? 0) > 0,
  );
  return (
    <div data-testid="touches" className="mt-2">
      <Plot
        title={weighed ? 'Hardest touch' : 'Fastest touch'}
        unit={weighed ? 'N s' : 'm/s'}
        frames={frames}
        values={weighed ? impulse : speed}
        last={last}
        colour="--rust"
        filled
      />
      <dl className="mt-1">
        <Row name="Fastest touch">
          {exact(speed[fastest])} m/s at {frames[fastest]}
        </Row>
        {weighed ? (
          <Row name="Hardest touch">
            {exact(impulse[heaviest] ?? 0)} N s at {frames[heaviest]}
          </Row>
        ) : null}
      </dl>
    </div>
  );
}
