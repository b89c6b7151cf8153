import * as THREE from 'three';
import { describe, expect, it, vi } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { thingsOf } from '../../resources/ts/handles/things';
import { both } from '../../resources/ts/state/document';
import { JointsCard } from '../../resources/ts/stages/JointsCard';
import {
  axisOf,
  carriedEnds,
  drawn,
  endsOf,
  lengthOf,
  type JointDocument,
} from '../../resources/ts/viewport/joints';
import { documentOf, show, withProp } from './harness';

/** A joint of a kind, with some of its settings. */
function joint(kind: string, settings: object): JointDocument {
  return {
    ...(standard(['joints', 0]) as object),
    id: 'tie',
    name: 'Tie',
    prop: 'block',
    joint: kind,
    [kind]: { ...(standard(['joints', 0, kind]) as object), ...settings },
  } as unknown as JointDocument;
}

const ENDS = { from: { x: 0, y: 1, z: 0 }, to: { x: 3, y: 1, z: 4 } };

/** How long a line through places is. */
const along = (places: THREE.Vector3[]) =>
  places.slice(1).reduce((sum, place, k) => sum + place.distanceTo(places[k] as THREE.Vector3), 0);

describe('what is drawn of a joint', () => {
  it('is a straight rope where it is taut, and an arc of its length where it is slack', () => {
    const taut = joint('rope', ENDS);
    expect(lengthOf(taut)).toBeCloseTo(5);
    expect(along(drawn(taut, ...endsOf(taut)))).toBeCloseTo(5);
    const slack = joint('rope', { ...ENDS, slack: 4 });
    const places = drawn(slack, ...endsOf(slack));
    expect(places[0]?.toArray()).toEqual([0, 1, 0]);
    expect(places.at(-1)?.toArray()).toEqual([3, 1, 4]);
    expect(along(places)).toBeGreaterThan(5.15);
    expect(along(places)).toBeLessThan(5.25);
    expect(Math.min(...places.map(({ y }) => y))).toBeLessThan(0.5);
    // Drawn out by its ends, it is straight again.
    expect(along(drawn(slack, new THREE.Vector3(0, 0, 0), new THREE.Vector3(5.2, 0, 0)))).toBeCloseTo(5.2);
  });

  it('winds a spring about its way, and gives a hinge its axis', () => {
    const spring = joint('spring', ENDS);
    const [from, to] = endsOf(spring);
    const way = to.clone().sub(from).normalize();
    const off = drawn(spring, from, to).map((place) => place.clone().sub(from).cross(way).length());
    expect(off[0]).toBeCloseTo(0);
    expect(off.at(-1)).toBeCloseTo(0);
    expect(Math.max(...off)).toBeCloseTo(0.3);
    const hinge = joint('hinge', { at: { x: 1, y: 2, z: 3 }, axis: { x: 0, y: 0, z: 2 } });
    expect(axisOf(hinge)?.map((end) => end.toArray())).toEqual([
      [1, 2, 2.88],
      [1, 2, 3.12],
    ]);
    expect(axisOf(joint('hinge', { turns: 'any' }))).toBeNull();
    expect(axisOf(spring)).toBeNull();
  });
});

it('goes with the keys of what it holds and of what it hangs on, before a bake', () => {
  // What it hangs on is turned a quarter about z and moved up; what it holds stays.
  const half = Math.SQRT1_2;
  const tracks = {
    block: [[0, 0, 0, 0, 0, 0, 1, 1, 1, 1]],
    beam: [
      [3, 0, 4, 0, 0, 0, 1, 1, 1, 1],
      [3, 2, 4, 0, 0, half, half, 1, 1, 1],
    ],
  };
  const rope = { ...joint('rope', ENDS), other: 'beam' };
  const places = (frame: number) =>
    carriedEnds(rope, tracks, frame).map((end) =>
      end.toArray().map((value) => Math.round(1e6 * value) / 1e6),
    );
  expect(places(1)).toEqual([
    [0, 1, 0],
    [3, 1, 4],
  ]);
  // A metre above its middle becomes a metre to the side of it.
  expect(places(2)).toEqual([
    [0, 1, 0],
    [2, 2, 4],
  ]);
  expect(carriedEnds({ ...rope, other: '' }, tracks, 2)[1].toArray()).toEqual([3, 1, 4]);
});

it('is taken at its ends while it is open in Motion', () => {
  const document = { ...withProp(['name'], 'Block'), joints: [joint('rope', ENDS)] } as ReturnType<
    typeof documentOf
  >;
  const scene = { document, numbers: {}, tracks: {}, frame: 1 };
  const at = (stage: 'motion' | 'prop', id: string | null) =>
    thingsOf(scene, stage, 0, '', id).filter((thing) => thing.key.startsWith('joints'));
  expect(at('motion', null)).toEqual([]);
  expect(at('prop', 'tie')).toEqual([]);
  const [from, to] = at('motion', 'tie');
  expect(from?.name).toBe('Holds at');
  const moved = to?.apply(document, { move: new THREE.Vector3(0, 0.5, 0) });
  expect(moved?.joints[0]).toMatchObject({ rope: { to: { x: 3, y: 1.5, z: 4 }, from: ENDS.from } });
});

describe('a new fastening', () => {
  const prop = (id: string, mover: string) =>
    both(standard(['props', 0]), { id, name: id.toUpperCase(), motion: { mover } });

  it.each([
    ['the only hard pieces', ['rigid', 'cloth', 'light'], 7, 'p1', 'p0', 'holds P1 to P0 at 7 places.'],
    ['what is too far away', ['rigid', 'soft'], 0, 'p1', 'p0', 'no place of P1 is that near to P0.'],
    ['what is chosen later', ['cloth', 'rigid', 'rigid'], 0, 'p0', '', 'choose the prop that it hangs on.'],
    ['nothing at all', ['light'], 0, '', '', 'choose what it holds.'],
  ])('holds cloth to %s, and says so', async (_, movers, count, held, to, said) => {
    const places = vi
      .spyOn(globalThis, 'fetch')
      .mockImplementation(() => Promise.resolve(Response.json({ count, places: [] })));
    try {
      const start = documentOf({ props: movers.map((mover, k) => prop(`p${k}`, mover)), joints: [] });
      const { user, getByRole, findByRole, findByTestId, queryByLabelText, seen } = show(
        <JointsCard />,
        start,
      );
      await user.click(getByRole('button', { name: 'Add a joint' }));
      await user.click(await findByRole('menuitem', { name: /^Fastening/ }));
      expect(seen.document.joints[0]).toMatchObject({ joint: 'fastening', prop: held, other: to });
      // It has no ends of its own, and what it holds always meets.
      expect(queryByLabelText('They touch')).toBeNull();
      expect((await findByTestId('fastened')).textContent).toContain(said);
      expect(places).toHaveBeenCalledWith('/api/shots/shot/joints/fastening/places', expect.anything());
    } finally {
      places.mockRestore();
    }
  });

  it('is nothing to be drawn between ends, for it has none', () => {
    const lace = joint('fastening', { within: 0.1 });
    expect(drawn(lace, new THREE.Vector3(), new THREE.Vector3(1, 0, 0))).toEqual([]);
    expect(axisOf(lace)).toBeNull();
  });
});
