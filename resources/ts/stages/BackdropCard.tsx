import { useContext, useEffect, useState } from 'react';
import { ShotContext } from '../shot/context';
import { Fields } from '../fields/Fields';
import { roundLengthText } from '../readout/units';
import { useFrame } from '../state/frame';
import { useView } from '../state/view';
import { Button, Heading } from '../ui/controls';
import { pictureAt } from '../viewport/backdrop';
import { squareOf } from '../viewport/GroundSquares';
import { aspectOf } from '../viewport/ShotCamera';

/** So little of a side cut off is not seen. */
const ALIKE = 0.01;

/** What is behind the shot; for a picture, how it and the camera fit each other. */
export function BackdropCard() {
  const { handle, numbers } = useContext(ShotContext);
  const { document } = handle.shot;
  const frame = useFrame();
  const asset = pictureAt(document.backdrop, frame);
  const through = useView((view) => view.through);
  const ground = useView((view) => view.ground);
  const set = useView((view) => view.set);
  return (
    <>
      <Heading>Backdrop</Heading>
      <Fields base={['backdrop']} />
      {asset === null ? null : document.camera.on ? (
        <>
          <Unlike asset={asset} aspect={aspectOf(document)} />
          <div className="mt-2 flex flex-wrap gap-2">
            {through ? null : <Button onClick={() => set({ through: true })}>Look through the camera</Button>}
            <Button
              aria-pressed={ground}
              title="Squares on the floor, to see how the camera stands to it: put their horizon where the picture has its own"
              onClick={() => set({ ground: !ground })}
            >
              {ground ? 'No squares' : `Ground squares of ${roundLengthText(squareOf(document, numbers))}`}
            </Button>
          </div>
        </>
      ) : (
        <p className="text-ink-2">
          It fills what you see. Add a camera (above), and the picture stays with that.
        </p>
      )}
    </>
  );
}

/** Says how large the picture is, and where the camera's has another shape. */
function Unlike({ asset, aspect }: { asset: string; aspect: number }) {
  const [size, setSize] = useState<{ asset: string; width: number; height: number } | null>(null);
  useEffect(() => {
    const picture = new Image();
    picture.onload = () => setSize({ asset, width: picture.naturalWidth, height: picture.naturalHeight });
    picture.src = `/api/assets/${asset}`;
    return () => {
      picture.onload = null;
    };
  }, [asset]);
  if (size?.asset !== asset) return null;
  const own = size.width / size.height;
  return (
    <p className="text-ink-2" data-testid="backdrop-size">
      {size.width} by {size.height}
      {Math.abs(own / aspect - 1) > ALIKE
        ? `: it is ${own > aspect ? 'wider' : 'higher'} than what the camera shows.`
        : ', as wide to high as what the camera shows.'}
    </p>
  );
}
