import { act } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { both, read, type Path } from '../../resources/ts/state/document';
import { clock } from '../../resources/ts/state/frame';
import { useView } from '../../resources/ts/state/view';
import { useClick } from '../../resources/ts/viewport/useClick';
import { documentOf, show } from './harness';

const keyed = {
  keys: [
    { frame: 1, value: 0, ease: 'linear' },
    { frame: 5, value: 4 },
  ],
};

const ZONE = { source: 'zone', zone: { space: 'prop', at: { x: 0, y: 0, z: 0 } } };

const PICKED = { source: 'picked', picked: { places: [] } };

/** A stands a metre to the side; B is turned by a quarter, twice as large, and comes nearer along x. */
const start = () => {
  const prop = (rest: object) => both(standard(['props', 0]), rest);
  return documentOf({
    props: [
      prop({ id: 'a', name: 'A', position: { x: 1, y: 0, z: 0 }, weight: { stack: [ZONE, PICKED] } }),
      prop({
        id: 'b',
        name: 'B',
        position: { x: keyed, y: 5, z: 0 },
        rotation: { x: 0, y: 90, z: 0 },
        scale: { x: 2, y: 2, z: 2 },
      }),
    ],
    forces: [
      both(standard(['forces', 0]), { force: 'blast', blast: { at: { x: 0, y: 0, z: 0 } } }),
      both(standard(['forces', 0]), { force: 'stream', stream: { places: [] } }),
      both(standard(['forces', 0]), { force: 'swirl', swirl: { direction: { x: keyed, y: 1, z: 0 } } }),
    ],
  });
};

function open(path: Path, kind: 'point' | 'direction' | 'more') {
  let click: ReturnType<typeof useClick> = () => undefined;
  function Clicks() {
    click = useClick();
    return null;
  }
  const { seen } = show(<Clicks />, start(), undefined, {
    numbers: {
      '/props/1/position/x': [0, 1, 2, 3, 4],
      '/forces/2/swirl/direction/x': [0, 1, 2, 3, 4],
    },
  });
  clock.now = 3;
  useView.setState({ picking: { path, kind } });
  // A piece every metre along x.
  const pieceOn = (place: [number, number, number]) => Math.floor(place[0]);
  const hit = (id: string, point: [number, number, number], normal: [number, number, number] = [0, 0, 1]) =>
    act(() => click(id, { piece: pieceOn(point), point, normal } as never, false, null as never, pieceOn));
  return { hit, seen, picked: () => read(seen.document, path) };
}

describe('a click while a place is picked', () => {
  it('says where a force is in the shot, on whatever prop it lands, where that is now', () => {
    const { hit, picked } = open(['forces', 0, 'blast', 'at'], 'point');
    // Twice as large, turned by a quarter about y (x goes to -z), then carried along: 2 at frame 3.
    hit('b', [0.5, 0.25, 0]);
    expect(picked()).toMatchObject({ x: 2, y: 5.5, z: -1 });
    expect(useView.getState().picking).toBeNull();
  });

  it('says which way a force goes in the shot, by a face of a prop as it is turned', () => {
    const { hit, picked } = open(['forces', 2, 'swirl', 'direction'], 'direction');
    hit('b', [0, 0, 0], [0, 0, 1]);
    // What is keyed gets a key.
    const { x, y, z } = picked() as { x: typeof keyed; y: number; z: number };
    expect(x.keys).toHaveLength(3);
    expect(x.keys).toContainEqual(expect.objectContaining({ frame: 3, value: 1 }));
    expect([y, z]).toEqual([0, 0]);
  });

  it('says several places one after the other, on different props', () => {
    const { hit, picked } = open(['forces', 1, 'stream', 'places'], 'more');
    hit('a', [0, 0.5, 0]);
    hit('b', [0, 0, 0]);
    expect(picked()).toEqual([
      { x: 1, y: 0.5, z: 0 },
      { x: 2, y: 5, z: 0 },
    ]);
    expect(useView.getState().picking).not.toBeNull();
  });

  it('picks pieces, and lets one go that is picked already', () => {
    const { hit, picked } = open(['props', 0, 'weight', 'stack', 1, 'picked', 'places'], 'more');
    hit('a', [0.5, 0.1, 0]);
    hit('a', [2.5, 0.1, 0]);
    hit('a', [0.2, 0, 0.3]);
    expect(picked()).toEqual([{ x: 2.5, y: 0.1, z: 0 }]);
    hit('a', [0.7, 0, 0]);
    expect(picked()).toEqual([
      { x: 2.5, y: 0.1, z: 0 },
      { x: 0.7, y: 0, z: 0 },
    ]);
  });

  it('is of the open prop alone, and in its own space, for what belongs to it', () => {
    const { hit, seen, picked } = open(['props', 0, 'weight', 'stack', 0, 'zone', 'at'], 'point');
    hit('b', [0, 0, 0]);
    expect(seen.edits).toBe(0);
    hit('a', [0.5, 0.25, 0]);
    expect(picked()).toMatchObject({ x: 0.5, y: 0.25, z: 0 });
  });
});
