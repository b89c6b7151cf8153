import { useContext } from 'react';
import { standard } from '../api/schema';
import type { PropDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { both, freeName, newId, write } from './document';
import { useView } from './view';

/** What a prop is called that is added. */
const BOX = 'Box';

/** Names that props are made with, the second of them with a number. */
const MADE = [BOX, (standard(['props', 0]) as { name: string }).name];

/** Whether nobody has chosen this name. */
export const isUnnamed = (name: string) => MADE.includes(name.replace(/ \d+$/, ''));

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
    /** Up or down the list, as far as it goes. */
    move: (index: number, by: number) =>
      handle.edit((doc) => {
        const to = index + by;
        const prop = doc.props[index];
        if (!prop || to < 0 || to >= doc.props.length) return doc;
        const rest = doc.props.filter((_, k) => k !== index);
        return { ...doc, props: [...rest.slice(0, to), prop, ...rest.slice(to)] };
      }),
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
