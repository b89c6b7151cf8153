import { useMutation } from '@tanstack/react-query';
import { useContext, useId, useState } from 'react';
import { sendJson } from '../api/client';
import { standard } from '../api/schema';
import type { BakeState, PropDocument, ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { both, freeName, newId } from '../state/document';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { Select } from '../ui/Select';
import { rounded } from '../handles/things';

export interface FrozenMesh {
  asset: string;
  name: string;
  middle: { x: number; y: number; z: number };
}

/** The shot with a still prop of a frozen mesh, in the colours of the one that it was. */
export function withFrozen(
  document: ShotDocument,
  of: string,
  frame: number,
  mesh: FrozenMesh,
): ShotDocument {
  const was = document.props.find((prop) => prop.id === of);
  const name = freeName(
    `${(was?.name ?? 'Prop').slice(0, 60)} at ${frame}`,
    document.props.map((prop) => prop.name),
  );
  const prop = both(standard(['props', 0]), {
    id: newId(
      name,
      document.props.map((each) => each.id),
    ),
    name,
    source: { kind: 'file', file: { asset: mesh.asset, fileName: mesh.name } },
    position: {
      x: rounded(mesh.middle.x),
      y: rounded(mesh.middle.y),
      z: rounded(mesh.middle.z),
    },
    break: { pattern: 'whole' },
    release: { trigger: 'never' },
    look: was?.look ?? {},
  }) as PropDocument;
  return { ...document, props: [...document.props, prop] };
}

/** Makes a prop of what another one is at the frame one looks at. */
export function Freeze({ bake }: { bake: BakeState }) {
  const { handle, prop } = useContext(ShotContext);
  const frame = useFrame();
  const set = useView((view) => view.set);
  const notify = useView((view) => view.notify);
  const id = useId();
  const inBake = handle.shot.document.props.filter((each) => bake.props.includes(each.id));
  const [chosen, choose] = useState(prop?.id ?? '');
  const of = inBake.find((each) => each.id === chosen) ?? inBake[0];
  const freeze = useMutation({
    mutationFn: (propId: string) =>
      sendJson<FrozenMesh>('POST', `bakes/${bake.id}/freeze`, { prop: propId, frame }),
    onSuccess: (mesh, propId) => {
      let made = '';
      handle.edit((doc) => {
        const changed = withFrozen(doc, propId, frame, mesh);
        made = changed.props.at(-1)?.id ?? '';
        return changed;
      });
      void handle.settled().then(() => set({ propId: made, stage: 'prop' }));
    },
    onError: (error) => notify({ kind: 'error', title: 'It cannot be frozen', detail: error.message }),
  });
  if (!of) return null;
  return (
    <div className="flex items-center justify-between gap-2">
      <label htmlFor={id} className="sr-only">
        Prop to freeze
      </label>
      <Select id={id} value={of.id} options={inBake.map((each) => [each.id, each.name])} onChange={choose} />
      <Button disabled={freeze.isPending} data-testid="freeze" onClick={() => freeze.mutate(of.id)}>
        Freeze at {frame}
      </Button>
    </div>
  );
}
