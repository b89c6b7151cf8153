import { useCallback, useContext } from 'react';
import * as THREE from 'three';
import { chosen, fieldAt } from '../api/schema';
import { carried, poseOf, putVector, rounded, standsInShot, type Scene } from '../handles/things';
import { ShotContext } from '../shot/context';
import { useBrush } from '../state/brush';
import { read, write, type Path } from '../state/document';
import { clock } from '../state/frame';
import { useView } from '../state/view';
import type { Place } from '../tracks/WeightStore';
import type { Hit } from './poses';
import type { PieceOn } from './under';

type Three = [number, number, number];

function vector(numbers: Three) {
  const [x, y, z] = numbers.map(rounded) as Three;
  return { x, y, z };
}

/** Whether what is picked there stands in the shot, whatever is clicked. */
export function picksInShot(path: Path): boolean {
  return path[0] === 'forces' || path[0] === 'joints' || fieldAt(path)['x-space'] === 'shot';
}

/** What a click on a piece does: sets the place that is being picked, selects a piece in Break, or selects the prop. */
export function useClick() {
  const { handle, prop, numbers, tracks } = useContext(ShotContext);
  return useCallback(
    (id: string, hit: Hit, more: boolean, place: Place, pieceOn: PieceOn) => {
      if (useBrush.getState().painting) return;
      const view = useView.getState();
      if (view.picking) {
        const { path, kind } = view.picking;
        // Forces and paths stand in the shot: any prop will do to say where.
        const ofShot = picksInShot(path);
        if (id !== prop?.id && !ofShot) return;
        const settings = path.slice(0, -1);
        handle.edit((doc) => {
          // What stands in the shot is picked where the clicked prop is at the frame one looks at; what is keyed gets a key there.
          const scene: Scene = { document: doc, numbers, tracks, frame: Math.round(clock.now) };
          const pose = poseOf(scene, ['props', doc.props.findIndex((each) => each.id === id)]);
          const [point, normal] = [new THREE.Vector3(...hit.point), new THREE.Vector3(...hit.normal)];
          const inShot = ofShot || standsInShot(read(doc, settings));
          if (kind === 'more') {
            const places = (read(doc, path) as ReturnType<typeof vector>[] | undefined) ?? [];
            if (chosen(read(doc, settings.slice(0, -1)) as object, 'source').has('picked')) {
              // A piece that is picked already is let go again.
              const others = places.filter(({ x, y, z }) => pieceOn([x, y, z]) !== hit.piece);
              if (others.length < places.length) return write(doc, path, others);
            }
            return write(doc, path, [...places, vector((inShot ? carried(pose, point) : point).toArray())]);
          }
          if (kind === 'direction') {
            const turned = normal.clone().divide(pose.scale).normalize().applyQuaternion(pose.turn);
            return putVector(doc, scene, path, inShot ? turned : normal);
          }
          const placed = putVector(doc, scene, path, inShot ? carried(pose, point) : point);
          // A blow goes into the surface it lands on.
          const into = hit.normal.map((value) => -value) as Three;
          return chosen(read(doc, settings.slice(0, -1)) as object, 'pattern').has('directed')
            ? write(placed, [...settings, 'axis'], vector(into))
            : placed;
        });
        // Several places are picked one after the other.
        if (kind !== 'more') view.set({ picking: null });
        return;
      }
      if (view.stage === 'break' && id === view.propId) {
        const isChosen = view.pieces.includes(hit.piece);
        view.set({
          pieces: more
            ? isChosen
              ? view.pieces.filter((k) => k !== hit.piece)
              : [...view.pieces, hit.piece]
            : isChosen && view.pieces.length === 1
              ? []
              : [hit.piece],
        });
        return;
      }
      // What the weight does there over time is plotted.
      const probed = view.stage === 'timing' && id === view.propId ? { prop: id, place } : null;
      view.set({ propId: id, pieces: [], hidden: [], probed });
    },
    [handle, prop, numbers, tracks],
  );
}
