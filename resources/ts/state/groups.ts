import type { PropDocument } from '../api/types';

/** Props that stand together: those of a group, or one by itself. */
export interface Block {
  /** Empty: it is in no group. */
  name: string;
  props: PropDocument[];
}

/** One that has just been added has no settings before the server has filled them in. */
const groupOf = (prop: PropDocument): string => prop.group ?? '';

/** In the order in which the sheet shows them: a group stands where its first prop does. */
export function blocksOf(props: PropDocument[]): Block[] {
  const blocks: Block[] = [];
  for (const prop of props) {
    const name = groupOf(prop);
    const own = name === '' ? undefined : blocks.find((block) => block.name === name);
    if (own) own.props.push(prop);
    else blocks.push({ name, props: [prop] });
  }
  return blocks;
}

const together = (blocks: Block[]): PropDocument[] => blocks.flatMap((block) => block.props);

/** Two neighbours in each other's place; at the end of the list nothing changes. */
function swapped<T>(list: T[], at: number, by: number): T[] {
  const [one, other] = [list[at], list[at + by]];
  if (one === undefined || other === undefined) return list;
  return list.map((each, k) => (k === at ? other : k === at + by ? one : each));
}

/** A prop further up or down: within its group, or by itself past whatever stands there. */
export function movedProp(props: PropDocument[], id: string, by: 1 | -1): PropDocument[] {
  const blocks = blocksOf(props);
  const at = blocks.findIndex((block) => block.props.some((prop) => prop.id === id));
  const block = blocks[at];
  if (!block || block.name === '') return together(swapped(blocks, at, by));
  const within = block.props.findIndex((prop) => prop.id === id);
  return together(blocks.with(at, { ...block, props: swapped(block.props, within, by) }));
}

/** A whole group further up or down. */
export function movedGroup(props: PropDocument[], name: string, by: 1 | -1): PropDocument[] {
  const blocks = blocksOf(props);
  return together(
    swapped(
      blocks,
      blocks.findIndex((block) => block.name === name),
      by,
    ),
  );
}

/** Puts a prop last into a group, or, with an empty name, into none, behind the one it was in. */
export function withGroup(props: PropDocument[], id: string, name: string): PropDocument[] {
  const blocks = blocksOf(props);
  const prop = props.find((each) => each.id === id);
  if (!prop || groupOf(prop) === name) return props;
  const put = { ...prop, group: name };
  const left = blocks.flatMap((block) => {
    if (!block.props.includes(prop)) return [block];
    const rest = block.props.filter((each) => each !== prop);
    return [
      ...(rest.length > 0 ? [{ ...block, props: rest }] : []),
      // Where it stood, if its group is not there yet.
      ...(name === '' || !blocks.some((each) => each.name === name) ? [{ name, props: [put] }] : []),
    ];
  });
  return together(
    left.map((block) =>
      block.name === name && name !== '' && !block.props.includes(put)
        ? { ...block, props: [...block.props, put] }
        : block,
    ),
  );
}

/** The first name that no group has yet. */
export function freeGroup(props: PropDocument[]): string {
  const taken = new Set(props.map(groupOf));
  for (let k = 1; ; k++) if (!taken.has(`Group ${k}`)) return `Group ${k}`;
}
