import { useContext } from 'react';
import * as THREE from 'three';
import { chosen } from '../api/schema';
import { ItemList } from '../fields/ItemList';
import { rounded } from '../handles/things';
import { ShotContext } from '../shot/context';
import { useFastened } from '../shot/useFastened';
import { useView } from '../state/view';

/** Above what hangs on a rope its other end is put, of the size of the prop. */
const ABOVE = 0.3;

/**
 * What holds hard pieces, and what bends to them. A new one holds the open prop at its top, and a rope or a spring hangs on a place above it; a new
 * fastening holds the open cloth or soft thing, or the only one, to the only prop of hard pieces.
 */
export function JointsCard() {
  const { handle, prop, tracks, readouts } = useContext(ShotContext);
  const fastened = (item: object): object => {
    const one = (trait: string) => {
      const fit = handle.shot.document.props.filter(
        (other) => other.on && chosen(other.motion, 'mover').has(trait),
      );
      return fit.find((other) => other.id === prop?.id)?.id ?? (fit.length === 1 ? (fit[0]?.id ?? '') : '');
    };
    return { ...item, prop: one('fastens'), other: one('joins') };
  };
  const made = (item: object): object => {
    if (chosen(item, 'joint').has('fastens')) return fastened(item);
    const box = prop ? readouts[prop.id]?.health.bounds : undefined;
    const pose = prop ? tracks[prop.id]?.[0] : undefined;
    // As long as nobody knows how large it is, one puts the places where they belong.
    if (!prop || !box || !pose) return { ...item, prop: prop?.id ?? '' };
    const { kind, settings } = chosen(item, 'joint');
    const [low, high] = box.map((corner) => new THREE.Vector3(...corner)) as [THREE.Vector3, THREE.Vector3];
    const [x = 0, y = 0, z = 0, qx = 0, qy = 0, qz = 0, qw = 1] = pose;
    const top = low.clone().lerp(high, 0.5).setY(high.y);
    const place = top.applyQuaternion(new THREE.Quaternion(qx, qy, qz, qw)).add(new THREE.Vector3(x, y, z));
    const at = (up: number) => ({ x: rounded(place.x), y: rounded(place.y + up), z: rounded(place.z) });
    const above = ABOVE * low.distanceTo(high);
    return {
      ...item,
      prop: prop.id,
      [kind]: {
        ...settings,
        ...('at' in settings ? { at: at(0) } : { from: at(0), to: at(above) }),
      },
    };
  };
  return (
    <>
      <ItemList
        path={['joints']}
        noun="Joint"
        empty="Nothing is tied: no rope, no spring, no hinge, no fastening."
        made={made}
      />
      <Fastened />
    </>
  );
}

/** At how many places the open joint holds cloth, or why at none. */
function Fastened() {
  const { handle } = useContext(ShotContext);
  const open = useView((view) => view.force);
  const { document } = handle.shot;
  const joint = document.joints.find((one) => one.id === open);
  const [held] = useFastened(joint ? [joint] : []);
  if (!joint?.on || !chosen(joint, 'joint').has('fastens')) return null;
  const name = (id: string) => document.props.find((prop) => prop.id === id)?.name ?? '';
  const [prop, other] = [name(joint.prop), name(joint.other)];
  const count = held?.count;
  const text = !prop
    ? 'holds nothing yet: choose what it holds.'
    : !other
      ? 'holds nothing yet: choose the prop that it hangs on.'
      : count === undefined
        ? null
        : count === 0
          ? `holds nothing: no place of ${prop} is that near to ${other}.`
          : `holds ${prop} to ${other} at ${count === 1 ? 'one place' : `${count} places`}.`;
  return text === null ? null : (
    <p className="mt-1 text-ink-2" data-testid="fastened">
      {joint.name} {text}
    </p>
  );
}
