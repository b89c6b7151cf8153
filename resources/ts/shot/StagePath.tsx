import { Table2 } from 'lucide-react';
import { useContext } from 'react';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { ShotContext } from './context';
import { STAGES, stageState, summary } from './summary';

/** The map of the work: a drawn line with six stops. */
export function StagePath() {
  const { handle, prop, bake, readouts } = useContext(ShotContext);
  const stage = useView((view) => view.stage);
  const set = useView((view) => view.set);
  const sheet = useView((view) => view.sheet);
  return (
    <nav aria-label="Stages" className="flex h-14 items-stretch border-b border-line bg-paper pr-3">
      <ol className="relative flex flex-1">
        {STAGES.map(({ id, title }, k) => {
          const state = stageState(id, prop, bake);
          const text = summary(id, handle.shot.document, prop, prop ? readouts[prop.id] : undefined, bake);
          const open = stage === id;
          return (
            <li key={id} className="relative min-w-0 flex-1">
              <span
                aria-hidden
                className={`absolute top-[17px] h-[2px] bg-line ${k === 0 ? 'left-[22px]' : 'left-0'} ${k === STAGES.length - 1 ? 'right-[calc(100%-22px)]' : 'right-0'}`}
              />
              <button
                type="button"
                aria-current={open ? 'step' : undefined}
                data-stage={id}
                data-state={state}
                title={`${title}: ${text} (${k + 1})`}
                onClick={() => set({ stage: id, sheet: false })}
                className="ease relative block h-full w-full overflow-hidden px-3 text-left hover:bg-card"
              >
                <span className="flex h-[34px] items-center gap-2">
                  <span
                    className={`relative z-[1] h-[18px] w-[18px] shrink-0 rounded-full border-2 ${
                      open
                        ? 'border-[4px] border-teal bg-paper'
                        : state === 'empty'
                          ? 'border-line bg-paper'
                          : state === 'stale'
                            ? 'hatch border-warn bg-paper'
                            : 'border-ink-2 bg-ink-2'
                    }`}
                  />
                  <span className={`relative z-[1] bg-paper pr-2 ${open ? 'font-semibold text-teal' : ''}`}>
                    {k + 1} {title}
                  </span>
                </span>
                <span
                  className={`block truncate pb-1 text-[12px] leading-4 ${state === 'stale' ? 'text-warn' : 'text-ink-2'}`}
                >
                  {text}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      <Button
        look="quiet"
        className="my-auto ml-2"
        aria-pressed={sheet}
        onClick={() => set({ sheet: !sheet })}
      >
        <Table2 size={15} /> Shot sheet
      </Button>
    </nav>
  );
}
