import { useMutation } from '@tanstack/react-query';
import { Package } from 'lucide-react';
import { useContext, type ReactNode } from 'react';
import { savePackage } from '../api/packages';
import { chosen } from '../api/schema';
import { Fields } from '../fields/Fields';
import { ShotContext } from '../shot/context';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { FilmCard } from './FilmCard';
import { Freeze } from './Freeze';
import { SaveFile } from './SaveFile';

/** What endings are called that do not say it themselves. */
const NAMES: Record<string, string> = { usda: 'USD' };

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
      <div className="mb-3">
        <Fields base={[]} names={['firstFrame']} />
      </div>
      <Item
        title="The whole motion in one file"
        text={[
          bake.pieces > 0
            ? `${bake.pieces} pieces, each with place, turn and size at each of ${bake.frames} frames.`
            : '',
          bent ? 'Cloth and what is soft is one mesh a prop, bent at each frame.' : '',
          'Each prop’s outside and fresh faces are materials of their own. USD is text, with the weight on every mesh; USDZ is the same with the pictures on faces, packed.',
        ].join(' ')}
      >
        <Files bake={bake.id} endings={['glb', 'usda', 'usdz']} frame={1} main />
      </Item>
      <Item
        title={`Meshes at frame ${frame}`}
        text={`OBJ: an object a piece. PLY: one mesh whose faces say of which piece they are. STL: triangles alone.${changing ? ' Colours that change with the weight are in none of them.' : ''}`}
      >
        <Files bake={bake.id} endings={['obj', 'ply', 'stl']} frame={frame} key={frame} />
      </Item>
      <Item title="Meshes, a file a frame" text={`${bake.frames} numbered files in a ZIP.`}>
        <Files bake={bake.id} endings={['obj.zip', 'ply.zip', 'stl.zip']} frame={1} />
      </Item>
      <Item
        title="What becomes of each piece"
        text="A table: size, mass, where it begins and ends, when it lets go, rests and is gone, how fast it is at most and when."
      >
        <Files bake={bake.id} endings={['csv']} frame={1} />
      </Item>
      <Item
        title="A film, or its pictures"
        text={handle.shot.document.camera.on ? 'Through the shot’s camera.' : 'As you look at it now.'}
      >
        <FilmCard frames={bake.frames} props={bake.props} />
      </Item>
      <Item
        title="A frozen prop, in this shot"
        text={`What a prop is at frame ${frame}, as a mesh of its own with its colours: to be placed, turned, broken and moved anew. The pattern “Its parts” makes each piece one again.`}
      >
        <Freeze bake={bake} />
      </Item>
      <Item
        title="The shot itself, for another machine"
        text={`A ZIP of all that is set and of the files that it needs. Dropped on the yard there it is the same shot, and bakes to the same frames; with its bake it plays at once.${bake.stale ? ' A stale bake cannot go with it.' : ''}`}
      >
        <PackShot shot={handle.shot} bakes={!bake.stale} />
      </Item>
      <p className="mt-3 text-[12px] text-ink-2">
        Metres, y up. Pieces are called by the prefix set in Break and a number.
      </p>
    </>
  );
}

function PackShot({ shot, bakes }: { shot: { id: string; name: string }; bakes: boolean }) {
  const notify = useView((view) => view.notify);
  const give = useMutation({
    mutationFn: (withBake: boolean) => savePackage({ id: shot.id, name: shot.name, withBake }),
    onError: (error) => notify({ kind: 'error', title: 'There is no package', detail: error.message }),
  });
  const button = (withBake: boolean, label: string) => (
    <Button
      data-testid={withBake ? 'package-with-bake' : 'package'}
      onClick={() => give.mutate(withBake)}
      disabled={give.isPending || (withBake && !bakes)}
    >
      <Package size={14} /> {give.isPending && give.variables === withBake ? 'Packing' : label}
    </Button>
  );
  return (
    <div className="flex flex-wrap gap-2">
      {button(false, 'Package')}
      {button(true, 'With its bake')}
    </div>
  );
}

/** A button a format, by how its files end. */
function Files({
  bake,
  endings,
  frame,
  main = false,
}: {
  bake: string;
  endings: string[];
  frame: number;
  main?: boolean;
}) {
  return (
    <div className="flex flex-wrap gap-2">
      {endings.map((ending) => (
        <SaveFile
          key={ending}
          bake={bake}
          format={ending}
          frame={frame}
          testId={`export-${ending}`}
          main={main}
          label={NAMES[ending] ?? (ending.split('.')[0] ?? '').toUpperCase()}
        />
      ))}
    </div>
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
