import { useCallback, useContext } from 'react';
import { chosen } from '../api/schema';
import { ShotContext } from '../shot/context';
import { read, write } from '../state/document';
import { useView } from '../state/view';
import type { Place } from '../tracks/WeightStore';
import type { Hit } from './poses';

const DECIMALS = 1e4;

function vector([x, y, z]: [number, number, number]) {
  const rounded = (value: number) => Math.round(value * DECIMALS) / DECIMALS;
  return { x: rounded(x), y: rounded(y), z: rounded(z) };
}

/** What a click on a piece does: sets the place that is being picked, selects a piece in Break, or selects the prop. */
export function useClick() {
  const { handle, prop } = useContext(ShotContext);
  return useCallback(
    (id: string, hit: Hit, more: boolean, place: Place) => {
      const view = useView.getState();
      if (view.picking) {
        if (id !== prop?.id) return;
        const { path, kind } = view.picking;
        const settings = path.slice(0, -1);
        handle.edit((doc) => {
          if (kind === 'more') {
            const places = (read(doc, path) as object[] | undefined) ?? [];
            return write(doc, path, [...places, vector(hit.point)]);
          }
          if (kind === 'direction') return write(doc, path, vector(hit.normal));
          const placed = write(doc, path, vector(hit.point));
          // A blow goes into the surface it lands on.
          const into = hit.normal.map((value) => -value) as [number, number, number];
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
    [handle, prop],
  );
}
