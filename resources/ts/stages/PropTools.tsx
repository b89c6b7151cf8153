import { Copy, Plus, Trash2 } from 'lucide-react';
import { useContext } from 'react';
import type { PropDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { chosen, standard } from '../api/schema';
import { both, merge, newId, write } from '../state/document';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { FileDrop } from '../ui/FileDrop';
import { nameOf } from '../api/files';
import { text } from '../api/text';

const BOX = 'Box';

/** Names that props are made with. */
const UNNAMED = [BOX, (standard(['props', 0]) as { name: string }).name];

/** Add, copy and remove props. */
export function PropTools() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const set = useView((view) => view.set);
  const ids = handle.shot.document.props.map((p) => p.id);
  const add = (name: string, rest: object) => {
    const id = newId(name, ids);
    handle.edit((doc) => ({
      ...doc,
      props: [...doc.props, { id, name, ...rest } as unknown as PropDocument],
    }));
    // The server fills in the rest; until then the new prop has only what it needs.
    void handle.settled().then(() => set({ propId: id }));
  };
  return (
    <div className="mt-4 flex flex-wrap gap-2 border-t border-line pt-3">
      <Button
        onClick={() =>
          // Still and whole: something to fall on, to begin with.
          add(
            BOX,
            both(standard(['props', 0]), {
              source: { box: { width: 0.3, height: 0.3, depth: 0.3 } },
              position: { y: 0.15 },
              break: { pattern: 'whole' },
              release: { trigger: 'never' },
              look: { outer: '#a08a6a' },
            }) as object,
          )
        }
      >
        <Plus size={14} /> Add a prop
      </Button>
      {prop ? (
        <>
          <Button
            onClick={() => {
              const rest = Object.fromEntries(
                Object.entries(prop).filter(([key]) => key !== 'id' && key !== 'name'),
              );
              add(`${prop.name} copy`.slice(0, 80), rest);
            }}
          >
            <Copy size={14} /> Copy
          </Button>
          <Button
            onClick={() =>
              handle.edit((doc) => ({ ...doc, props: doc.props.filter((_, k) => k !== propIndex) }))
            }
          >
            <Trash2 size={14} /> Remove
          </Button>
        </>
      ) : null}
    </div>
  );
}

/** Brings the prop's file in. It is read in full before anything changes. */
export function Upload() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const source = chosen(prop?.source, 'kind');
  const upload = source.trait('upload');
  if (!prop || typeof upload !== 'string') return null;
  return (
    <FileDrop
      kind={upload as 'mesh' | 'art'}
      name={text(source.settings['fileName'])}
      asset={text(source.settings['asset'])}
      onFile={(asset, fileName) =>
        handle.edit((doc) => {
          const next = merge(doc, ['props', propIndex, 'source', source.kind], { asset, fileName });
          // A name that nobody has chosen gives way to the file's.
          return UNNAMED.includes(prop.name)
            ? write(next, ['props', propIndex, 'name'], nameOf(fileName))
            : next;
        })
      }
    />
  );
}
