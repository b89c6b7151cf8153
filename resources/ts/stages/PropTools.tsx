import { Copy, Plus, Power, Trash2 } from 'lucide-react';
import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { chosen } from '../api/schema';
import { merge, write } from '../state/document';
import { isUnnamed, usePropEdits } from '../state/propEdits';
import { Button } from '../ui/controls';
import { FileDrop } from '../ui/FileDrop';
import { nameOf, type FileKind } from '../api/files';
import { text } from '../api/text';

/** Add, copy and remove props. */
export function PropTools() {
  const { prop, propIndex } = useContext(ShotContext);
  const { add, copy, remove, turn } = usePropEdits();
  return (
    <div className="mt-4 flex flex-wrap gap-2 border-t border-line pt-3">
      <Button onClick={add}>
        <Plus size={14} /> Add a prop
      </Button>
      {prop ? (
        <>
          <Button onClick={() => copy(propIndex)}>
            <Copy size={14} /> Copy
          </Button>
          <Button
            title="Off: it is left out of the picture, the bake and the files"
            onClick={() => turn(propIndex, !prop.on)}
          >
            <Power size={14} /> {prop.on ? 'Switch off' : 'Switch on'}
          </Button>
          <Button onClick={() => remove(propIndex)}>
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
  const upload = source.has('font') ? 'font' : source.trait('upload');
  if (!prop || typeof upload !== 'string') return null;
  return (
    <FileDrop
      kind={upload as FileKind}
      name={text(source.settings['fileName'])}
      asset={text(source.settings['asset'])}
      onFile={(asset, fileName) =>
        handle.edit((doc) => {
          const next = merge(doc, ['props', propIndex, 'source', source.kind], { asset, fileName });
          // A name that nobody has chosen gives way to the file's.
          return isUnnamed(prop.name) && upload !== 'font'
            ? write(next, ['props', propIndex, 'name'], nameOf(fileName))
            : next;
        })
      }
    />
  );
}
