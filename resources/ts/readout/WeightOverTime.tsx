import { useContext, useMemo, useSyncExternalStore } from 'react';
import { ShotContext } from '../shot/context';
import { useView } from '../state/view';
import { Plot } from './Plot';

const NOTHING = () => () => undefined;

/** What the weight does over time at the place that was clicked. */
export function WeightOverTime() {
  const { weight, prop } = useContext(ShotContext);
  const probed = useView((view) => view.probed);
  const store = weight?.store ?? null;
  const version = useSyncExternalStore(store?.follow ?? NOTHING, () => store?.version ?? 0);
  const place = probed && probed.prop === prop?.id ? probed.place : null;
  const values = useMemo(
    () => (store && place && version >= 0 ? store.over(place) : []),
    [store, place, version],
  );
  const frames = useMemo(() => values.map((_, k) => k + 1), [values]);
  if (!weight) return null;
  if (!place)
    return (
      <p className="mt-3 text-ink-2">Click a place on the prop to see what its weight does over time.</p>
    );
  return (
    <div className="mt-3" data-testid="weight-over-time">
      <Plot
        title={weight.name === 'weight' ? 'Weight where you clicked' : `${weight.name} where you clicked`}
        unit=""
        frames={frames}
        values={values}
        top={1}
        last={weight.store.frames}
        colour="--ink-2"
        filled
      />
    </div>
  );
}
