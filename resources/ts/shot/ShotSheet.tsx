import { ArrowDown, ArrowUp, Copy, Plus, Power, Trash2, X } from 'lucide-react';
import { useContext } from 'react';
import type { PropDocument } from '../api/types';
import { usePropEdits } from '../state/propEdits';
import { useView } from '../state/view';
import { Button, IconButton } from '../ui/controls';
import { below, Findings } from '../stages/Findings';
import { ShotContext } from './context';
import { STAGES, summary } from './summary';

/** The whole shot beside the picture: a row a prop, a column a stage, what happens in words; what is wrong with a prop stands below it. */
export function ShotSheet() {
  const { handle, prop } = useContext(ShotContext);
  const { add } = usePropEdits();
  const set = useView((view) => view.set);
  const { props } = handle.shot.document;
  return (
    <section
      aria-label="Shot sheet"
      className="min-h-0 overflow-auto border-r border-line bg-card px-4 py-3"
      data-testid="sheet"
    >
      <div className="mb-2 flex items-center justify-between">
        <h2 className="text-[20px] leading-tight font-semibold">Shot sheet</h2>
        <span className="flex gap-1">
          <Button onClick={add}>
            <Plus size={14} /> Add a prop
          </Button>
          <IconButton label="Close the sheet" keys="S" onClick={() => set({ sheet: false })}>
            <X size={16} />
          </IconButton>
        </span>
      </div>
      <table className="w-full table-fixed border-collapse text-left">
        <thead>
          <tr>
            <th className="w-[150px] border-b border-line p-2">Prop</th>
            {STAGES.map((stage) => (
              <th key={stage.id} className="border-b border-line p-2">
                {stage.title}
              </th>
            ))}
          </tr>
        </thead>
        {props.map((each, k) => (
          <Row key={each.id} prop={each} index={k} last={props.length - 1} open={each.id === prop?.id} />
        ))}
      </table>
      <div className="mt-3">
        <Findings which={(finding) => !/^\/props\/\d/.test(finding.pointer)} />
      </div>
    </section>
  );
}

function Row({
  prop,
  index,
  last,
  open,
}: {
  prop: PropDocument;
  index: number;
  last: number;
  open: boolean;
}) {
  const { handle, readouts, bake, findings } = useContext(ShotContext);
  const { rename, move, copy, remove, turn } = usePropEdits();
  const set = useView((view) => view.set);
  const here = below(`/props/${index}`);
  const wrong = findings.some(here);
  return (
    <tbody data-row={prop.id} className={open ? 'bg-teal-wash/40' : ''}>
      <tr className="group align-top">
        <th className={`p-1 font-semibold ${wrong ? '' : 'border-b border-line'}`}>
          <input
            key={prop.name}
            aria-label={`Name of ${prop.name}`}
            defaultValue={prop.name}
            maxLength={80}
            className="h-7 w-full rounded-md border border-transparent bg-transparent px-1 font-semibold hover:border-line focus:border-teal focus:bg-paper"
            onBlur={(event) => rename(index, event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
          {prop.on ? null : <span className="block px-1 pb-1 text-[12px] text-warn">switched off</span>}
          <span className="flex opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
            <IconButton
              label={prop.on ? `Switch ${prop.name} off` : `Switch ${prop.name} on`}
              className="!h-6 !w-6"
              onClick={() => turn(index, !prop.on)}
            >
              <Power size={13} />
            </IconButton>
            <IconButton
              label={`${prop.name} further up`}
              className="!h-6 !w-6"
              disabled={index === 0}
              onClick={() => move(index, -1)}
            >
              <ArrowUp size={13} />
            </IconButton>
            <IconButton
              label={`${prop.name} further down`}
              className="!h-6 !w-6"
              disabled={index === last}
              onClick={() => move(index, 1)}
            >
              <ArrowDown size={13} />
            </IconButton>
            <IconButton label={`Copy ${prop.name}`} className="!h-6 !w-6" onClick={() => copy(index)}>
              <Copy size={13} />
            </IconButton>
            <IconButton label={`Remove ${prop.name}`} className="!h-6 !w-6" onClick={() => remove(index)}>
              <Trash2 size={13} />
            </IconButton>
          </span>
        </th>
        {STAGES.map((stage) => (
          <td
            key={stage.id}
            className={`p-0 ${wrong ? '' : 'border-b border-line'} ${prop.on ? '' : 'opacity-50'}`}
          >
            <button
              type="button"
              className="ease w-full p-2 text-left hover:bg-teal-wash"
              onClick={() => set({ sheet: false, stage: stage.id, propId: prop.id })}
            >
              {summary(stage.id, handle.shot.document, prop, readouts[prop.id], bake)}
            </button>
          </td>
        ))}
      </tr>
      {wrong ? (
        <tr>
          <td colSpan={STAGES.length + 1} className="border-b border-line px-2">
            <Findings which={here} />
          </td>
        </tr>
      ) : null}
    </tbody>
  );
}
