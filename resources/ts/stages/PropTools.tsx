import { Copy, Plus, Trash2, Upload as UploadIcon } from 'lucide-react';
import { useContext, useRef, useState } from 'react';
import { ProblemError, request } from '../api/client';
import type { PropDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { standard } from '../api/schema';
import { both, newId, write } from '../state/document';
import { useView } from '../state/view';
import { Button } from '../ui/controls';

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
            'Box',
            both(standard(['props', 0]) as object, {
              source: { width: 0.3, height: 0.3, depth: 0.3 },
              place: { y: 0.15 },
              break: { pattern: 'whole' },
              timing: { release: 'never' },
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

/** Brings a mesh file in. It is read in full before anything changes. */
export function Upload() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const send = async (file: File) => {
    setBusy(true);
    setProblem('');
    try {
      const form = new FormData();
      form.append('file', file);
      const answer = (await (await request('assets', { method: 'POST', body: form })).json()) as {
        asset: string;
        name: string;
        size: number;
      };
      handle.edit((doc) => {
        const source = doc.props[propIndex]?.source;
        return write(doc, ['props', propIndex, 'source'], {
          ...source,
          kind: 'file',
          asset: answer.asset,
          fileName: answer.name,
        });
      });
    } catch (error) {
      setProblem(error instanceof ProblemError ? error.message : String(error));
    } finally {
      setBusy(false);
      if (input.current) input.current.value = '';
    }
  };
  return (
    <div
      className="my-2 rounded-md border border-dashed border-ink-2 p-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void send(file);
      }}
    >
      <p className="mb-2 truncate">{prop?.source.fileName || 'No file yet. OBJ, STL, PLY or GLB.'}</p>
      <input
        ref={input}
        id="mesh-file"
        type="file"
        accept=".obj,.stl,.ply,.glb"
        className="sr-only"
        onChange={(event) => event.target.files?.[0] && void send(event.target.files[0])}
      />
      <Button disabled={busy} onClick={() => input.current?.click()}>
        <UploadIcon size={14} />{' '}
        {busy ? 'Reading …' : prop?.source.asset ? 'Replace the file' : 'Choose a file'}
      </Button>
      {problem ? (
        <p role="alert" className="mt-2 text-error" data-testid="upload-problem">
          {problem}
        </p>
      ) : null}
    </div>
  );
}
