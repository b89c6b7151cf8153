import {
  ArrowDown,
  ArrowUp,
  ChevronDown,
  ChevronRight,
  Copy,
  Folder,
  Plus,
  Power,
  Trash2,
  Ungroup,
  X,
} from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment, useContext, useState } from 'react';
import type { PropDocument } from '../api/types';
import { blocksOf, freeGroup, type Block } from '../state/groups';
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
  const blocks = blocksOf(props);
  const [folded, setFolded] = useState<string[]>([]);
  const row = (each: PropDocument, first: boolean, last: boolean) => (
    <Row
      key={each.id}
      prop={each}
      index={props.indexOf(each)}
      first={first}
      last={last}
      open={each.id === prop?.id}
    />
  );
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
        {blocks.map((block, k) =>
          block.name === '' ? (
            block.props.map((each) => row(each, k === 0, k === blocks.length - 1))
          ) : (
            <Fragment key={block.name}>
              <GroupRow
                block={block}
                first={k === 0}
                last={k === blocks.length - 1}
                folded={folded.includes(block.name)}
                onFold={() =>
                  setFolded((old) =>
                    old.includes(block.name)
                      ? old.filter((name) => name !== block.name)
                      : [...old, block.name],
                  )
                }
              />
              {folded.includes(block.name)
                ? null
                : block.props.map((each, n) => row(each, n === 0, n === block.props.length - 1))}
            </Fragment>
          ),
        )}
      </table>
      <div className="mt-3">
        <Findings which={(finding) => !/^\/props\/\d/.test(finding.pointer)} />
      </div>
    </section>
  );
}

/** The name of a group, and what is done to all of it. */
function GroupRow({
  block,
  first,
  last,
  folded,
  onFold,
}: {
  block: Block;
  first: boolean;
  last: boolean;
  folded: boolean;
  onFold: () => void;
}) {
  const { renameGroup, moveGroup, takeApart, turnGroup } = usePropEdits();
  const { name, props } = block;
  const on = props.some((prop) => prop.on);
  return (
    <tbody data-group={name}>
      <tr className="group">
        <th colSpan={STAGES.length + 1} className="border-b border-line bg-well p-1 font-semibold">
          <span className="flex items-center">
            <IconButton
              label={folded ? `Show the props of ${name}` : `Fold ${name} away`}
              className="!h-6 !w-6"
              aria-expanded={!folded}
              onClick={onFold}
            >
              {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
            </IconButton>
            <input
              key={name}
              aria-label={`Name of the group ${name}`}
              defaultValue={name}
              maxLength={60}
              className="h-7 w-[180px] rounded-md border border-transparent bg-transparent px-1 font-semibold hover:border-line focus:border-teal focus:bg-paper"
              onBlur={(event) => {
                renameGroup(name, event.target.value);
                event.target.value = name;
              }}
              onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            />
            <span className="px-2 text-[12px] font-normal text-ink-2">
              {props.length === 1 ? '1 prop' : `${props.length} props`}
              {on ? '' : ', switched off'}
            </span>
            <span className="flex opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
              <IconButton
                label={on ? `Switch all of ${name} off` : `Switch all of ${name} on`}
                className="!h-6 !w-6"
                onClick={() => turnGroup(name, !on)}
              >
                <Power size={13} />
              </IconButton>
              <IconButton
                label={`${name} further up`}
                className="!h-6 !w-6"
                disabled={first}
                onClick={() => moveGroup(name, -1)}
              >
                <ArrowUp size={13} />
              </IconButton>
              <IconButton
                label={`${name} further down`}
                className="!h-6 !w-6"
                disabled={last}
                onClick={() => moveGroup(name, 1)}
              >
                <ArrowDown size={13} />
              </IconButton>
              <IconButton label={`Take ${name} apart`} className="!h-6 !w-6" onClick={() => takeApart(name)}>
                <Ungroup size={13} />
              </IconButton>
            </span>
          </span>
        </th>
      </tr>
    </tbody>
  );
}

/** Which group a prop is in. */
function GroupMenu({ prop }: { prop: PropDocument }) {
  const { handle } = useContext(ShotContext);
  const { putInto } = usePropEdits();
  const { props } = handle.shot.document;
  const names = blocksOf(props).flatMap((block) => (block.name === '' ? [] : [block.name]));
  const item = (text: string, name: string) => (
    <DropdownMenu.Item
      key={name}
      disabled={(prop.group ?? '') === name}
      className="cursor-default rounded-sm px-2 py-1 outline-none select-none data-[disabled]:text-ink-2 data-[highlighted]:bg-teal-wash"
      onSelect={() => putInto(prop.id, name)}
    >
      {text}
    </DropdownMenu.Item>
  );
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label={`Group of ${prop.name}`}
          title={`Group of ${prop.name}`}
          className="ease inline-flex h-6 w-6 items-center justify-center rounded-md hover:bg-well"
        >
          <Folder size={13} />
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          collisionPadding={8}
          className="z-50 min-w-[140px] rounded-md border border-line bg-card p-1 shadow-xl"
        >
          {names.map((name) => item(name, name))}
          {item('A new group', freeGroup(props))}
          {item('No group', '')}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Row({
  prop,
  index,
  first,
  last,
  open,
}: {
  prop: PropDocument;
  index: number;
  first: boolean;
  last: boolean;
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
        <th
          className={`p-1 font-semibold ${prop.group ? 'pl-5' : ''} ${wrong ? '' : 'border-b border-line'}`}
        >
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
              disabled={first}
              onClick={() => move(prop.id, -1)}
            >
              <ArrowUp size={13} />
            </IconButton>
            <IconButton
              label={`${prop.name} further down`}
              className="!h-6 !w-6"
              disabled={last}
              onClick={() => move(prop.id, 1)}
            >
              <ArrowDown size={13} />
            </IconButton>
            <GroupMenu prop={prop} />
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
