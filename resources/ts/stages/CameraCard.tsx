import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { Fields } from '../fields/Fields';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';
import { cameraHere } from '../viewport/ShotCamera';

/** The camera of the shot: put where one looks from, keyed like everything else. */
export function CameraCard() {
  const { handle, numbers, tracks } = useContext(ShotContext);
  const { document } = handle.shot;
  const frame = useFrame();
  const through = useView((view) => view.through);
  const set = useView((view) => view.set);
  return (
    <>
      <Heading>Camera</Heading>
      <Fields base={['camera']} />
      {document.camera.on ? (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button aria-pressed={through} onClick={() => set({ through: !through })}>
            {through ? 'Look freely' : 'Look through it'}
          </Button>
          <Button
            disabled={through}
            title="Moves the camera so that it sees what you see now; where it is keyed, a key is put at this frame"
            onClick={() => handle.edit((doc) => cameraHere(doc, { document, numbers, tracks, frame }))}
          >
            Put it here
          </Button>
        </div>
      ) : null}
    </>
  );
}
