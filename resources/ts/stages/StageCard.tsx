import { useContext, useState, type ReactNode } from 'react';
import { fieldAt } from '../api/schema';
import type { PropDocument, Stage } from '../api/types';
import { ShotContext } from '../shot/context';
import { STAGES } from '../shot/summary';
import { read, type Path } from '../state/document';
import { useView } from '../state/view';
import { applies, Field, Select } from '../ui/Field';
import { boardShown } from '../board/Board';
import { BakeCard } from './BakeCard';
import { DrawingTools } from './DrawingTools';
import { HandOffCard } from './HandOffCard';
import { PropTools, Upload } from './PropTools';

/** The card of the open stage: its question, the prop it acts on, few settings in words, rare ones under More. */
export function StageCard() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const pull = useView((view) => view.pull);
  const set = useView((view) => view.set);
  const entry = STAGES.find((s) => s.id === stage);
  const at: Path = ['props', propIndex];

  const body: Record<Stage, () => ReactNode> = {
    prop: () => (
      <>
        <Fields base={[...at]} names={['name']} />
        <Fields base={[...at, 'source']} names={['kind']} />
        {prop?.source.kind === 'file' || prop?.source.kind === 'art' ? <Upload /> : null}
        <Fields base={[...at, 'source']} skip={['kind']} />
        <Heading>Stands at</Heading>
        <Fields base={at} names={['place', 'turn']} />
        <Heading>Colours</Heading>
        <Fields base={[...at, 'look']} skip={unusedColours(prop)} />
        <PropTools />
      </>
    ),
    break: () => (
      <>
        <Fields base={[...at, 'break']} />
        {prop && boardShown('break', prop) ? <DrawingTools /> : null}
        {prop?.break.pattern === 'whole' ? null : (
          <div className="mt-3 border-t border-line pt-3">
            <label className="flex justify-between" htmlFor="pull">
              <span>Pull apart</span>
              <span className="text-ink-2">{Math.round(pull * 100)} %</span>
            </label>
            <input
              id="pull"
              type="range"
              min={0}
              max={2}
              step={0.01}
              value={pull}
              onChange={(event) => set({ pull: Number(event.target.value) })}
              className="w-full"
            />
            <p className="text-[12px] text-ink-2">Only for looking: it changes nothing in the shot.</p>
          </div>
        )}
      </>
    ),
    timing: () => <Fields base={[...at, 'timing']} />,
    motion: () => (
      <>
        <Fields base={[...at, 'motion']} names={['before', 'density', 'friction', 'bounce']} />
        <Heading>Starts with</Heading>
        <Fields base={[...at, 'motion']} names={['velocity', 'spin']} />
        <Heading>Everything in the shot</Heading>
        <Fields base={[]} names={['gravity', 'settleSpeed']} />
        <Fields base={['floor']} />
      </>
    ),
    bake: () => (
      <>
        <BakeCard />
        <Heading>Length</Heading>
        <Fields base={[]} names={['frames', 'fps']} />
      </>
    ),
    handoff: () => <HandOffCard />,
  };

  return (
    <section
      aria-label={entry?.title}
      className="relative min-h-0 overflow-y-auto border-r border-line bg-card px-4 py-3"
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
            options={handle.shot.document.props.map((p) => [p.id, p.name])}
            onChange={(propId) => set({ propId })}
          />
        </div>
      ) : null}
      {prop || stage === 'bake' ? body[stage]() : <EmptyShot />}
    </section>
  );
}

/** Colours that nothing of the prop shows. */
function unusedColours(prop: PropDocument | undefined): string[] {
  const layers = prop?.break.pattern === 'breach' ? prop.break.bands : 0;
  return [
    ...(prop?.source.kind === 'art' ? [] : ['side']),
    ...[1, 2, 3, 4].filter((k) => k > layers).map((k) => `layer${k}`),
  ];
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

export function Heading({ children }: { children: ReactNode }) {
  return <h3 className="mt-4 mb-1 border-t border-line pt-3 font-semibold">{children}</h3>;
}

/** The fields of an object, in the schema's order; rare ones behind "More". */
export function Fields({ base, names, skip = [] }: { base: Path; names?: string[]; skip?: string[] }) {
  const { handle } = useContext(ShotContext);
  const [more, setMore] = useState(false);
  const object = fieldAt(base);
  const values = read(handle.shot.document, base);
  const list = (names ?? Object.keys(object.properties ?? {})).filter((name) => !skip.includes(name));
  const usable = list.filter((name) => {
    const field = fieldAt([...base, name]);
    return !field['x-hidden'] && applies(field, values);
  });
  const rare = usable.filter((name) => fieldAt([...base, name])['x-more']);
  return (
    <>
      {usable
        .filter((name) => !rare.includes(name))
        .map((name) => (
          <Field key={name} path={[...base, name]} />
        ))}
      {rare.length > 0 ? (
        <>
          <button
            type="button"
            aria-expanded={more}
            className="py-1 text-teal underline-offset-2 hover:underline"
            onClick={() => setMore(!more)}
          >
            {more ? 'Less' : 'More'}
          </button>
          {more ? rare.map((name) => <Field key={name} path={[...base, name]} />) : null}
        </>
      ) : null}
    </>
  );
}
