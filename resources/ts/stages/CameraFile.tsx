import { useContext, useState } from 'react';
import { getJson, ProblemError } from '../api/client';
import type { Brought } from '../api/files';
import { fieldAt } from '../api/schema';
import type { ShotDocument } from '../api/types';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { FileDrop } from '../ui/FileDrop';
import { Select } from '../ui/Select';

/** How far off a camera looks if nothing says so, m. */
const AWAY = 3;

interface Taken {
  camera: Partial<ShotDocument['camera']>;
  note: string;
}

/** A camera that comes with a file, a tracked one perhaps: its keys become those of the shot's camera. */
export function CameraFile() {
  const [open, setOpen] = useState(false);
  const [file, setFile] = useState<Brought | null>(null);
  const [node, setNode] = useState(0);
  const [unit, setUnit] = useState('m');
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState('');
  const { handle } = useContext(ShotContext);
  const set = useView((view) => view.set);
  const { document } = handle.shot;

  if (!open) {
    return (
      <Button className="mt-2" data-testid="camera-file-open" onClick={() => setOpen(true)}>
        Take one from a file
      </Button>
    );
  }
  const take = async () => {
    setProblem('');
    try {
      const asked = new URLSearchParams({
        fps: String(document.fps),
        unit,
        away: String(awayOf(document)),
        aspect: document.camera.aspect,
      });
      const taken = await getJson<Taken>(`assets/${file?.asset}/cameras/${node}?${asked}`);
      handle.edit((doc) => write(doc, ['camera'], { ...doc.camera, ...taken.camera }));
      set({ through: true });
      setSaid([lengthOf(taken.camera, document.frames), taken.note].filter(Boolean).join(' '));
    } catch (error) {
      setProblem(error instanceof ProblemError ? error.message : String(error));
    }
  };
  const units = fieldAt(['props', 0, 'source', 'file', 'units']);
  return (
    <div className="mt-2" data-testid="camera-file-card">
      <FileDrop
        kind="camera"
        name={file?.name ?? ''}
        asset={file?.asset ?? ''}
        onFile={(_asset, _name, brought) => {
          const cameras = brought.cameras ?? [];
          setFile(brought);
          // One that moves is more likely to be the shot's than one that stands by.
          setNode((cameras.find((camera) => camera.moves) ?? cameras[0])?.node ?? 0);
          setSaid('');
        }}
      />
      {file ? (
        <>
          <Line label="Which" id="camera-which">
            <Select
              id="camera-which"
              value={String(node)}
              options={(file.cameras ?? []).map((camera) => [
                String(camera.node),
                camera.moves ? camera.name : `${camera.name} (still)`,
              ])}
              onChange={(next) => setNode(Number(next))}
            />
          </Line>
          <Line label={units.title ?? ''} id="camera-unit">
            <Select
              id="camera-unit"
              value={unit}
              options={(units.enum ?? []).map((each) => [each, units['x-labels']?.[each] ?? ''])}
              onChange={setUnit}
            />
          </Line>
          <Button data-testid="camera-take" onClick={() => void take()}>
            Take it
          </Button>
        </>
      ) : null}
      {said ? (
        <p role="status" className="mt-2 text-ink-2" data-testid="camera-said">
          {said}
        </p>
      ) : null}
      {problem ? (
        <p role="alert" className="mt-2 text-error">
          {problem}
        </p>
      ) : null}
    </div>
  );
}

function Line({ label, id, children }: { label: string; id: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-7 items-center justify-between gap-2 py-[3px]">
      <label htmlFor={id}>{label}</label>
      {children}
    </div>
  );
}

/** As far off as the camera looks now. */
function awayOf({ camera }: ShotDocument): number {
  const way = (['x', 'y', 'z'] as const).map((axis) => {
    const [from, to] = [camera.position[axis], camera.target[axis]];
    return typeof from === 'number' && typeof to === 'number' ? to - from : NaN;
  });
  const far = Math.hypot(...way);
  return far > 0 ? far : AWAY;
}

/** Until when it moves, and whether the shot is as long. */
function lengthOf(camera: Taken['camera'], frames: number): string {
  const last = Math.max(
    1,
    ...[camera.position, camera.target].flatMap((vector) =>
      Object.values(vector ?? {}).flatMap((value) =>
        typeof value === 'object' ? value.keys.map((key: { frame: number }) => key.frame) : [],
      ),
    ),
  );
  if (last === 1) return 'It stands still.';
  return `It moves until frame ${last}${last > frames ? `; the shot ends at ${frames}` : ''}.`;
}
