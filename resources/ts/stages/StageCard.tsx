import { Wind } from 'lucide-react';
import { useContext, type ReactNode } from 'react';
import { chosen } from '../api/schema';
import type { PropDocument, Stage } from '../api/types';
import { ShotContext } from '../shot/context';
import { playsOtherwise, STAGES } from '../shot/summary';
import { Fields, Kind, KindChoice, Presets } from '../fields/Fields';
import { ItemList, Lists } from '../fields/ItemList';
import type { Path } from '../state/document';
import { calledAs } from '../state/propEdits';
import { useView } from '../state/view';
import { usePropEdits } from '../state/propEdits';
import { Button, Heading, Slider } from '../ui/controls';
import { Select } from '../ui/Select';
import { boardShown } from '../board/Board';
import { ALL } from '../viewport/ForceArrows';
import { Bakes } from './Bakes';
import { BackdropCard } from './BackdropCard';
import { BakeCard } from './BakeCard';
import { CameraCard } from './CameraCard';
import { DrawingTools } from './DrawingTools';
import { FileMotion, inPieces } from './FileMotion';
import { below, Findings } from './Findings';
import { HandOffCard } from './HandOffCard';
import { JointsCard } from './JointsCard';
import { PathCard } from './PathCard';
import { PropTools, Upload } from './PropTools';
import { Trials } from './Trials';
import { WeightCard } from './WeightCard';

/** The card of the open stage: its question, the prop it acts on, few settings in words, rare ones under More. */
export function StageCard() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const pull = useView((view) => view.pull);
  const set = useView((view) => view.set);
  const entry = STAGES.find((s) => s.id === stage);
  const at: Path = ['props', propIndex];

  const pattern = chosen(prop?.break, 'pattern');
  const mover = chosen(prop?.motion, 'mover');
  const seat = handle.shot.document.props.find((each) => each.id === mover.settings['on'])?.name;

  const body: Record<Stage, () => ReactNode> = {
    prop: () => (
      <>
        <Fields base={at} names={['name']} />
        <KindChoice base={[...at, 'source']} as="kind" then={(doc, kind) => calledAs(doc, propIndex, kind)} />
        <Upload />
        <Findings which={below(`/props/${propIndex}/source/${chosen(prop?.source, 'kind').kind}`)} />
        <Fields base={[...at, 'source', chosen(prop?.source, 'kind').kind]} />
        <Fields base={[...at, 'prepare']} />
        <FileMotion />
        <Heading>Stands at</Heading>
        <Fields base={at} names={['position', 'rotation', 'scale']} />
        <PathCard />
        <Heading>Colours</Heading>
        <Fields base={[...at, 'look']} skip={unusedColours(prop)} />
        <PropTools />
      </>
    ),
    break: () => (
      <>
        <Kind base={[...at, 'break']} as="pattern" />
        {pattern.has('solid') ? (
          <>
            <Heading>Fresh faces and crumbs</Heading>
            <Fields base={[...at, 'break', 'finish']} />
          </>
        ) : null}
        <Fields base={[...at, 'break']} names={['prefix']} />
        {prop && boardShown('break', prop) ? <DrawingTools /> : null}
        {pattern.has('whole') ? null : (
          <div className="mt-3 border-t border-line pt-3">
            <p className="flex justify-between">
              <span>Pull apart</span>
              <span className="text-ink-2">{Math.round(pull * 100)} %</span>
            </p>
            <Slider
              label="Pull apart"
              min={0}
              max={2}
              step={0.01}
              value={pull}
              onChange={(next) => set({ pull: next })}
            />
            <p className="text-[12px] text-ink-2">Only for looking: it changes nothing in the shot.</p>
          </div>
        )}
      </>
    ),
    timing: () => (
      <>
        {mover.has('led') ? (
          <p className="text-ink-2">
            It never lets go: it goes where its file has it. Its weight may still turn its colours. Moved as{' '}
            {inPieces(mover.registry)}, its pieces ride along until they let go.
          </p>
        ) : (
          <Kind base={[...at, 'release']} as="trigger" />
        )}
        <div className="mt-3 border-t border-line pt-2">
          {mover.has('set') ? (
            <p className="text-ink-2">
              It goes by the weight of the prop that it is set on: {seat ?? 'none is chosen yet, in Motion'}.
            </p>
          ) : (
            <WeightCard />
          )}
        </div>
      </>
    ),
    motion: () => (
      <>
        <Kind base={[...at, 'motion']} as="mover" />
        <Lists base={[...at, 'motion', mover.kind]} />
        {mover.has('plays') ? <FileMotion /> : null}
        <Heading>Its time</Heading>
        <Fields base={at} names={['plays', 'shows']} />
        <Heading>Forces in the shot</Heading>
        <ItemList path={['forces']} noun="Force" empty="Nothing acts: what lets go stays where it is." />
        {handle.shot.document.forces.length > 1 ? <AllForces /> : null}
        <Heading>Joints</Heading>
        <JointsCard />
        <Heading>Floors</Heading>
        <ItemList path={['planes']} noun="Floor" empty="No floor: what falls goes on falling." />
        <Heading>At the end</Heading>
        <Fields base={[]} names={['settleSpeed']} />
      </>
    ),
    bake: () => (
      <>
        <BakeCard />
        <Trials />
        <Heading>Length</Heading>
        <Fields base={[]} names={['frames', 'fps', 'preRoll', 'plays', 'shows']} />
        {!playsOtherwise(handle.shot.document) ? null : (
          <p className="text-ink-2">
            Cues and the keys of props stay where they happen, not where they are shown.
          </p>
        )}
        <CameraCard />
        <Heading>Light</Heading>
        <Presets base={['lights']} />
        <Fields base={['lights']} />
        <BackdropCard />
        <Heading>The whole</Heading>
        <Fields base={['placing']} />
        <Bakes />
      </>
    ),
    handoff: () => <HandOffCard />,
  };

  return (
    <section
      aria-label={entry?.title}
      className="relative min-h-0 overflow-y-auto border-r border-line bg-card px-4 py-3 [scrollbar-gutter:stable]"
      data-testid="stage-card"
    >
      <h2 className="mb-2 text-[20px] leading-tight font-semibold">{entry?.question}</h2>
      {prop && stage !== 'bake' && stage !== 'handoff' ? (
        <div className="mb-3 flex items-center justify-between border-b border-line pb-3">
          <label htmlFor="which-prop" className="text-ink-2">
            This prop
          </label>
          <Select
            id="which-prop"
            value={prop.id}
            options={handle.shot.document.props.map((p) => [p.id, p.on ? p.name : `${p.name} (off)`])}
            onChange={(propId) => set({ propId })}
          />
        </div>
      ) : null}
      {prop && !prop.on && stage !== 'bake' && stage !== 'handoff' ? <SwitchedOff /> : null}
      {prop || stage === 'bake' ? body[stage]() : <EmptyShot />}
    </section>
  );
}

/** Draws all forces that act on the open prop, and says under the pointer what each has of it. */
function AllForces() {
  const all = useView((view) => view.force === ALL);
  const set = useView((view) => view.set);
  return (
    <Button
      look="quiet"
      aria-pressed={all}
      className={all ? 'text-teal' : ''}
      onClick={() => set({ force: all ? null : ALL })}
    >
      <Wind size={14} /> {all ? 'Draw them no more' : 'Draw all of them'}
    </Button>
  );
}

/** Colours that nothing of the prop shows. */
function unusedColours(prop: PropDocument | undefined): string[] {
  const pattern = chosen(prop?.break, 'pattern');
  const layers = pattern.trait('layers');
  const shown = typeof layers === 'string' ? Number(pattern.settings[layers]) : 0;
  return [
    ...(chosen(prop?.source, 'kind').has('sides') ? [] : ['side']),
    ...[1, 2, 3, 4].filter((k) => k > shown).map((k) => `layer${k}`),
  ];
}

function SwitchedOff() {
  const { prop, propIndex } = useContext(ShotContext);
  const { turn } = usePropEdits();
  return (
    <p className="mb-3 flex items-center justify-between gap-2 text-warn">
      {prop?.name} is switched off: it is left out of the picture and the bake.
      <Button onClick={() => turn(propIndex, true)}>Switch on</Button>
    </p>
  );
}

function EmptyShot() {
  return (
    <>
      <p className="mb-3 text-ink-2">
        The shot has no props yet. Add the thing that breaks, and what it falls on.
      </p>
      <PropTools />
    </>
  );
}
