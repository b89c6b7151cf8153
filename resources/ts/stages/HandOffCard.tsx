import { useContext, type ReactNode } from 'react';
import { chosen } from '../api/schema';
import { ShotContext } from '../shot/context';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { Freeze } from './Freeze';
import { SaveFile } from './SaveFile';

export function HandOffCard() {
  const { bake, handle } = useContext(ShotContext);
  const frame = useFrame();
  const set = useView((view) => view.set);
  const bent = handle.shot.document.props.some((prop) => chosen(prop.motion, 'mover').has('vertices'));
  const changing = handle.shot.document.props.some((prop) => prop.on && prop.look.changes);
  if (bake?.status !== 'done')
    return (
      <>
        <p className="mb-3 text-ink-2">There is nothing to hand off before a bake has finished.</p>
        <Button look="main" onClick={() => set({ stage: 'bake' })}>
          Go to Bake
        </Button>
      </>
    );
  return (
    <>
      {bake.stale ? (
        <p className="mb-3 rounded-md border border-warn p-2">
          <span className="font-semibold text-warn">The bake is stale.</span> These files show revision{' '}
          {bake.revision}, not the shot as it stands.
        </p>
      ) : null}
      <Item
        title="Animated GLB"
        text={[
          bake.pieces > 0
            ? `${bake.pieces} nodes, one a piece, with place, turn and size at each of ${bake.frames} frames.`
            : '',
          bent ? `Cloth is one node a prop, with a morph target for each of ${bake.frames} frames.` : '',
          'Each prop’s outside and fresh faces are materials of their own.',
        ].join(' ')}
      >
        <SaveFile bake={bake.id} format="glb" frame={1} testId="export-glb" />
      </Item>
      <Item
        title={`Pieces at frame ${frame} as OBJ`}
        text={`Every piece as an object, in its place in the world.${changing ? ' Colours that change with the weight are not in it.' : ''}`}
      >
        <SaveFile bake={bake.id} format="obj" frame={frame} testId="export-obj" key={frame} />
      </Item>
      <Item
        title="A frozen prop, in this shot"
        text={`What a prop is at frame ${frame}, as a mesh of its own with its colours: to be placed, turned, broken and moved anew. The pattern “Its parts” makes each piece one again.`}
      >
        <Freeze bake={bake} />
      </Item>
      <p className="mt-3 text-[12px] text-ink-2">
        {handle.shot.document.joints.some((joint) => joint.on)
          ? 'Not in files: ropes, springs and hinges.'
          : ''}{' '}
        Metres, y up. Pieces are called by the prefix set in Break and a number.
      </p>
    </>
  );
}

function Item({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <div className="mb-3 rounded-md border border-line bg-paper p-3">
      <h3 className="font-semibold">{title}</h3>
      <p className="mb-2 text-ink-2">{text}</p>
      {children}
    </div>
  );
}
