import { useCallback, useContext, useMemo } from 'react';
import { chosen } from '../api/schema';
import type { PropDocument } from '../api/types';
import { moving } from '../handles/moving';
import { ShotContext } from '../shot/context';
import { faceUrl } from '../state/face';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import type { WeightStore } from '../tracks/WeightStore';
import { BentPieces } from './BentPieces';
import type { Look } from './look';
import type { PieceMesh } from './mesh';
import { Pieces, type Shown } from './Pieces';
import { restPoses } from './poses';
import { reliefOf } from './relief';

interface Props {
  id: string;
  mesh: PieceMesh;
  own: PropDocument | undefined;
  baked: boolean;
  pull: number;
  track: number[][] | undefined;
  marks: boolean;
  selected: boolean;
  weights: WeightStore | null;
  hovered: number;
  register: (shown: Shown) => () => void;
}

/** A prop as the open stage shows it: baked, or where its keys put it. */
export function PosedPieces({
  id,
  mesh,
  own,
  baked,
  pull,
  track,
  marks,
  selected,
  weights,
  hovered,
  register,
}: Props) {
  const { frames, handle, readouts, weight } = useContext(ShotContext);
  const picked = useView((view) => view.pieces);
  const hidden = useView((view) => view.hidden);
  // Where one sets it up a stand-in is seen, and through it what it stands for.
  const judged = useView((view) => view.stage === 'bake' || view.stage === 'handoff');
  const fill = useCallback(
    (out: Float32Array, pieces: PieceMesh) => {
      restPoses(
        out,
        pieces,
        moving.prop === id
          ? moving.pose
          : (track?.[Math.min(track.length - 1, Math.max(0, Math.round(clock.now) - 1))] ?? []),
        pull,
        marks ? picked : [],
        marks ? hidden : [],
      );
    },
    [id, track, pull, marks, picked, hidden],
  );
  // While it is dragged it is where the hand has it.
  const motion = useCallback(() => (baked && moving.prop !== id ? frames : null), [baked, frames, id]);
  const colours = own?.look;
  const pattern = chosen(own?.break, 'pattern');
  const flakes = pattern.has('skin') && pattern.settings['thickness'] === 0;
  const rides = own?.played.on === true && chosen(own.motion, 'mover').has('plays');
  const open = (readouts[id]?.health.openEdges ?? 0) > 0;
  const face = faceUrl(handle.shot.id, own);
  const number = handle.shot.document.props.findIndex((p) => p.id === id);
  const look = useMemo(
    (): Look => ({
      outer: colours?.outer ?? '#b0a89a',
      changed: colours?.changes ? colours.changed : null,
      inner: colours?.inner ?? '#c4532b',
      side: colours?.side ?? '#8a6a45',
      layers: colours ? [colours.layer1, colours.layer2, colours.layer3, colours.layer4] : [],
      face,
      sheets: flakes || open,
      back: (flakes ? colours?.inner : colours?.outer) ?? '#b0a89a',
      number,
      rides,
      relief: colours ? reliefOf(colours) : null,
      seen: !colours?.standIn ? 'whole' : judged ? 'hole' : 'through',
    }),
    [colours, face, flakes, open, number, rides, judged],
  );
  if (baked && frames && frames.count(id, 'vertices') > 0)
    return (
      <BentPieces id={id} mesh={mesh} frames={frames} look={look} hovered={hovered} register={register} />
    );
  const teal = getComputedStyle(document.documentElement).getPropertyValue('--teal').trim();
  return (
    <Pieces
      id={id}
      mesh={mesh}
      look={look}
      contour={selected ? teal : null}
      weights={weights}
      threshold={weight?.releases ? thresholdOf(own) : NEVER}
      hovered={hovered}
      frames={motion}
      fill={fill}
      register={register}
    />
  );
}

/** A threshold that no weight passes: no line is drawn. */
const NEVER = 2;

/** Weight above which a piece lets go. */
export function thresholdOf(prop: PropDocument | undefined): number {
  return Number(chosen(prop?.release, 'trigger').settings['threshold'] ?? 0.5);
}
