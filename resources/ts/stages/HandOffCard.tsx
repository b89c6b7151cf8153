import { Download } from 'lucide-react';
import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button } from '../ui/controls';

export function HandOffCard() {
  const { bake } = useContext(ShotContext);
  const frame = useFrame();
  const set = useView((view) => view.set);
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
        text={`${bake.pieces} nodes, one a piece, with place, turn and size at each of ${bake.frames} frames; each prop’s outside and fresh faces as materials of their own.`}
        href={`/api/bakes/${bake.id}/pieces.glb`}
        testId="export-glb"
      />
      <Item
        title={`Pieces at frame ${frame} as OBJ`}
        text="Every piece as an object, in its place in the world."
        href={`/api/bakes/${bake.id}/pieces.obj?frame=${frame}`}
        testId="export-obj"
      />
      <p className="mt-3 text-[12px] text-ink-2">
        Metres, y up. Pieces are called by the prefix set in Break and a number.
      </p>
    </>
  );
}

function Item({ title, text, href, testId }: { title: string; text: string; href: string; testId: string }) {
  return (
    <div className="mb-3 rounded-md border border-line bg-paper p-3">
      <h3 className="font-semibold">{title}</h3>
      <p className="mb-2 text-ink-2">{text}</p>
      <a
        href={href}
        download
        data-testid={testId}
        className="ease inline-flex h-8 items-center gap-1.5 rounded-md border border-teal bg-teal px-3 text-[var(--on-teal)] hover:opacity-90"
      >
        <Download size={14} /> Save
      </a>
    </div>
  );
}
