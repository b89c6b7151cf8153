import { useContext } from 'react';
import type { ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { Fields } from '../fields/Fields';
import { write } from '../state/document';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';
import { cameraHere } from '../viewport/ShotCamera';
import { CameraFile } from './CameraFile';

/** The camera goes once round from where it stands; what would be the frame after the last is the first again. */
function turntable(document: ShotDocument): ShotDocument {
  const { orbit } = document.camera;
  if (typeof orbit !== 'number') return document;
  const keys = [
    { frame: 1, value: orbit, ease: 'linear' },
    { frame: document.frames + 1, value: orbit + 360, ease: 'linear' },
  ];
  return write(document, ['camera', 'orbit'], { keys });
}

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
          {typeof document.camera.orbit === 'number' ? (
            <Button
              title="Goes once round what it looks at while the shot plays, and closes the loop: two keys of “Goes round”"
              onClick={() => handle.edit(turntable)}
            >
              Turntable
            </Button>
          ) : null}
        </div>
      ) : null}
      <CameraFile />
    </>
  );
}
