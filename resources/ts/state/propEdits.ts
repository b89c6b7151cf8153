import { useContext } from 'react';
import { kindSchema, kindsOf, standard } from '../api/schema';
import type { PropDocument, ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { blocksOf, movedGroup, movedProp, withGroup } from './groups';
import { both, freeName, newId, write } from './document';
import { useView } from './view';

/** What a prop is called that is added. */
const BOX = 'Box';

/** What a source makes, without what is said of its files. */
const made = (kind: string) => kindSchema('source', kind).title.replace(/ \(.*\)$/, '');

/** Names that props are made with, the second of them with a number. */
const MADE = [BOX, (standard(['props', 0]) as { name: string }).name, ...kindsOf('source').map(made)];

/** Whether nobody has chosen this name. */
export const isUnnamed = (name: string) => MADE.includes(name.replace(/ \d+$/, ''));

/** A prop that nobody has named is called what it is made as. */
export function calledAs(doc: ShotDocument, index: number, kind: string): ShotDocument {
  const others = doc.props.filter((_, k) => k !== index).map((prop) => prop.name);
  return isUnnamed(doc.props[index]?.name ?? '')
    ? write(doc, ['props', index, 'name'], freeName(made(kind), others))
    : doc;
}

/** Adding, copying, ordering and removing the props of a shot. */
export function usePropEdits() {
  const { handle } = useContext(ShotContext);
  const set = useView((view) => view.set);
  const ids = handle.shot.document.props.map((prop) => prop.id);
  const names = handle.shot.document.props.map((prop) => prop.name);
  const put = (wanted: string, rest: object) => {
    const name = freeName(wanted, names);
    const id = newId(name, ids);
    handle.edit((doc) => ({ ...doc, props: [...doc.props, { ...rest, id, name } as PropDocument] }));
    // The server fills in the rest; until then the new prop has only what it needs.
    void handle.settled().then(() => set({ propId: id }));
  };
  return {
    /** Still and whole: something to fall on, to begin with. */
    add: () =>
      put(
        BOX,
        both(standard(['props', 0]), {
          source: { box: { width: 0.3, height: 0.3, depth: 0.3 } },
          position: { y: 0.15 },
          break: { pattern: 'whole' },
          release: { trigger: 'never' },
          look: { outer: '#a08a6a' },
        }) as object,
      ),
    copy: (index: number) => {
      const prop = handle.shot.document.props[index];
      if (prop) put(`${prop.name.slice(0, 70)} copy`, prop);
    },
    remove: (index: number) =>
      handle.edit((doc) => ({ ...doc, props: doc.props.filter((_, k) => k !== index) })),
    /** Up or down the list, or its group, as far as it goes. */
    move: (id: string, by: 1 | -1) => handle.edit((doc) => ({ ...doc, props: movedProp(doc.props, id, by) })),
    moveGroup: (name: string, by: 1 | -1) =>
      handle.edit((doc) => ({ ...doc, props: movedGroup(doc.props, name, by) })),
    /** Into a group, or with an empty name out of it. */
    putInto: (id: string, name: string) =>
      handle.edit((doc) => ({ ...doc, props: withGroup(doc.props, id, name) })),
    /** Never to nothing, nor to the name of another. */
    renameGroup: (old: string, wanted: string) =>
      handle.edit((doc) => {
        const name = wanted.trim();
        if (name === '' || doc.props.some((prop) => prop.group === name)) return doc;
        return {
          ...doc,
          props: doc.props.map((prop) => (prop.group === old ? { ...prop, group: name } : prop)),
        };
      }),
    /** Its props stay where they are. */
    takeApart: (name: string) =>
      handle.edit((doc) => ({
        ...doc,
        props: blocksOf(doc.props).flatMap((block) =>
          block.name === name ? block.props.map((prop) => ({ ...prop, group: '' })) : block.props,
        ),
      })),
    turnGroup: (name: string, on: boolean) =>
      handle.edit((doc) => ({
        ...doc,
        props: doc.props.map((prop) => (prop.group === name ? { ...prop, on } : prop)),
      })),
    /** In the shot or left out of it. */
    turn: (index: number, on: boolean) => handle.edit((doc) => write(doc, ['props', index, 'on'], on)),
    /** Never to nothing. */
    rename: (index: number, name: string) =>
      handle.edit((doc) =>
        name.trim() === '' || doc.props[index]?.name === name.trim()
          ? doc
          : write(doc, ['props', index, 'name'], name.trim()),
      ),
  };
}
