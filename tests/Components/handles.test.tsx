import * as THREE from 'three';
import { beforeEach, describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { Field } from '../../resources/ts/fields/Field';
import { changeOf, stepOf, type Held, type Part } from '../../resources/ts/handles/drag';
import { eye } from '../../resources/ts/handles/eye';
import { fromDegrees, propThing, thingsOf, toDegrees, type Thing } from '../../resources/ts/handles/things';
import { both } from '../../resources/ts/state/document';
import { numberAt } from '../../resources/ts/state/numbers';
import { placingOf } from '../../resources/ts/viewport/placing';
import { documentOf, show, withProp } from './harness';

const KEYS = { ctrlKey: false, metaKey: false, shiftKey: false, altKey: false };
const NOWHERE = () => null;

/** Looks along -z from 10 m: 100 pixels are 1 m where z is 0. */
beforeEach(() => {
  const camera = new THREE.OrthographicCamera(-4, 4, 3, -3, 0.1, 100);
  camera.position.set(0, 0, 10);
  camera.updateMatrixWorld();
  eye.camera = camera;
  eye.width = 800;
  eye.height = 600;
});

const held = (part: Part, origin = new THREE.Vector3(0.5, 1, 0)): Held => ({
  part,
  origin,
  foot: origin.clone().setY(0),
  x: 450,
  y: 200,
});

describe('a handle', () => {
  it('moves across the view by its grip', () => {
    const { change, says } = changeOf(held('grip'), 550, 150, KEYS, NOWHERE);
    expect(change.move?.toArray().map((v) => Math.round(v * 1000) / 1000)).toEqual([1, 0.5, 0]);
    expect(says).toBe('1.50  1.50  0.00 m');
  });

  it('only goes up and down by its line', () => {
    const { change } = changeOf(held('line'), 550, 150, KEYS, NOWHERE);
    expect(change.move?.x).toBe(0);
    expect(change.move?.y).toBeCloseTo(0.5);
  });

  it('keeps to one axis with Shift, snaps to the grid with Ctrl, and lands on a surface with Alt', () => {
    const one = changeOf(held('grip'), 550, 190, { ...KEYS, shiftKey: true }, NOWHERE).change.move;
    expect(one?.toArray().map((v) => Math.round(v * 1000) / 1000)).toEqual([1, 0, 0]);
    const grid = changeOf(held('grip'), 463, 200, { ...KEYS, ctrlKey: true }, NOWHERE).change.move;
    expect(grid?.x).toBeCloseTo(0.15);
    const on = changeOf(held('grip'), 463, 200, { ...KEYS, altKey: true }, () => new THREE.Vector3(2, 3, 4));
    expect(on.change.move?.toArray()).toEqual([1.5, 2, 4]);
  });

  it('turns about the axis one looks along by its dial, by 15 degrees with Ctrl', () => {
    // A quarter about z, against the clock as one sees it.
    const start = { ...held('dial'), x: 480, y: 200 };
    const quarter = changeOf(start, 450, 170, KEYS, NOWHERE);
    expect(quarter.says).toBe('90° about z');
    const turned = new THREE.Vector3(1, 0, 0).applyQuaternion(quarter.change.turn as THREE.Quaternion);
    expect(turned.y).toBeCloseTo(1);
    expect(changeOf(start, 478, 189, { ...KEYS, ctrlKey: true }, NOWHERE).says).toBe('15° about z');
  });

  it('sizes by how far out the knob is dragged', () => {
    expect(changeOf({ ...held('knob'), x: 470, y: 200 }, 490, 200, KEYS, NOWHERE).change.size).toBeCloseTo(2);
  });

  it('goes a centimetre by arrow key, ten with Shift', () => {
    expect(stepOf('ArrowRight', false)?.move?.toArray()).toEqual([0.01, 0, 0]);
    expect(stepOf('ArrowUp', true)?.move?.toArray()).toEqual([0, 0, -0.1]);
    expect(stepOf('PageDown', false)?.move?.y).toBeCloseTo(-0.01);
    expect(stepOf('a', false)).toBeNull();
  });
});

describe('the handle of the whole', () => {
  // Placed: turned a quarter about x, so that what was computed lying stands upright, twice as large, at (1, 0, 0).
  const document = {
    ...documentOf(),
    placing: {
      ...documentOf().placing,
      on: true,
      position: { x: 1, y: 0, z: 0 },
      rotation: { x: 90, y: 0, z: 0 },
      scale: 2,
    },
  };
  const scene = { document, numbers: {}, tracks: {}, frame: 1 };
  const [whole] = thingsOf(scene, 'bake', 0, '') as [Thing];

  it('is there in Bake only, and only while it is placed', () => {
    expect(whole.key).toBe('placing');
    expect(thingsOf({ ...scene, document: documentOf() }, 'bake', 0, '')).toEqual([]);
    expect(thingsOf(scene, 'handoff', 0, '')).toEqual([]);
  });

  it('is dragged as it is seen, though the picture is seen where it is computed', () => {
    const placing = placingOf(document.placing);
    const camera = eye.camera as THREE.OrthographicCamera;
    // Looks at what is placed as the camera of before does; where it is computed, that is from elsewhere.
    const { position, turn } = placing.eye({ position: camera.position, turn: camera.quaternion });
    camera.position.copy(position);
    camera.quaternion.copy(turn);
    camera.zoom = placing.scale;
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld();
    const sight = placing.sight(eye);
    const at = sight.screen(whole.place(1));
    expect([at?.x, at?.y].map((v) => Math.round(v ?? 0))).toEqual([500, 300]);
    expect(sight.way().z).toBeCloseTo(-1);
    const taken = { ...held('grip', whole.place(1)), x: 500, y: 300 };
    const { change } = changeOf(taken, 550, 200, KEYS, NOWHERE, sight);
    expect(whole.apply(document, change).placing.position).toEqual({ x: 1.5, y: 1, z: 0 });
    const turned = changeOf({ ...taken, part: 'dial', x: 530 }, 500, 270, KEYS, NOWHERE, sight);
    // A quarter about z after the quarter about x.
    expect(turned.says).toBe('90° about z');
    const rotation = whole.apply(document, turned.change).placing.rotation as Record<'x' | 'y' | 'z', number>;
    const up = new THREE.Vector3(0, 0, 1).applyQuaternion(
      fromDegrees(new THREE.Vector3(rotation.x, rotation.y, rotation.z)),
    );
    expect(up.toArray().map((v) => Math.round(v) + 0)).toEqual([1, 0, 0]);
    const sized = changeOf({ ...taken, part: 'knob', x: 520 }, 530, 300, KEYS, NOWHERE, sight);
    expect(whole.apply(document, sized.change).placing.scale).toBeCloseTo(3);
    expect(stepOf('PageUp', true, sight)?.move?.toArray()).toEqual([0, 0.1, 0]);
  });
});

describe('what a handle does to the document', () => {
  const layer = (kind: string, settings: object) => ({
    ...(standard(['props', 0, 'weight', 'stack', 0]) as object),
    source: kind,
    [kind]: { ...(standard(['props', 0, 'weight', 'stack', 0, kind]) as object), ...settings },
  });

  it('puts a key where a number is keyed, and leaves what has not changed', () => {
    const document = withProp(['position', 'x'], {
      keys: [
        { frame: 1, value: 0 },
        { frame: 20, value: 2 },
      ],
    });
    const scene = {
      document,
      numbers: { '/props/0/position/x': Array.from({ length: 48 }, (_, k) => k / 10) },
      tracks: {},
      frame: 11,
    };
    expect(numberAt(scene.numbers, document, ['props', 0, 'position', 'x'], 11)).toBe(1);
    const thing = propThing(scene, 0);
    expect(thing?.place(11).x).toBe(1);
    const changed = thing?.apply(document, { move: new THREE.Vector3(0.5, 0, 0) });
    expect(changed?.props[0]?.position.x).toEqual({
      keys: [
        { frame: 1, value: 0 },
        { frame: 20, value: 2 },
        { frame: 11, value: 1.5, ease: 'smooth' },
      ],
    });
    expect(changed?.props[0]?.position.y).toBe(0);
  });

  it('moves a prop on a path in the axes of the path, and the places of the path by themselves', () => {
    const document = withProp(['path'], {
      ...(standard(['props', 0, 'path']) as object),
      on: true,
      places: [
        { x: 0, y: 0, z: 0 },
        { x: 1, y: 0, z: 0 },
      ],
    });
    // At frame 1 the path stands at (2, 0, 0), turned a quarter about y: its own z is the shot's x.
    const half = Math.SQRT1_2;
    const tracks = {
      [document.props[0]?.id ?? '']: [[0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 2, 0, 0, 0, half, 0, half]],
    };
    const scene = { document, numbers: {}, tracks, frame: 1 };
    const [prop, , second] = thingsOf(scene, 'prop', 0, '');
    expect(prop?.place(1).toArray()).toEqual([2, 0, 0]);
    const moved = prop?.apply(document, { move: new THREE.Vector3(1, 0, 0) });
    expect(moved?.props[0]?.position).toEqual({ x: 0, y: 0, z: 1 });
    const bent = second?.apply(document, { move: new THREE.Vector3(0, 0.5, 0) });
    expect(bent?.props[0]?.path.places[1]).toEqual({ x: 1, y: 0.5, z: 0 });
    expect(bent?.props[0]?.position).toEqual(document.props[0]?.position);
  });

  it('moves a zone of the prop in the axes of the prop, one of the shot in those of the shot', () => {
    for (const [space, expected] of [
      ['prop', { x: 0, y: 0.5, z: 0 }],
      ['shot', { x: -1, y: 0, z: 0 }],
    ] as const) {
      const document = withProp(['weight', 'stack'], [layer('zone', { space, within: 0.2 })]);
      const prop = document.props[0] as object as { rotation: object; scale: object };
      // Turned a quarter about z, and twice as large: the shot's -x is its own y.
      prop.rotation = { x: 0, y: 0, z: 90 };
      prop.scale = { x: 2, y: 2, z: 2 };
      const scene = { document, numbers: {}, tracks: {}, frame: 1 };
      const [zone] = thingsOf(scene, 'timing', 0, '');
      const moved = zone?.apply(document, { move: new THREE.Vector3(-1, 0, 0), size: 3 });
      const settings = moved?.props[0]?.weight.stack[0]?.zone as unknown as {
        at: Record<string, number>;
        within: number;
      };
      for (const [axis, value] of Object.entries(expected)) expect(settings.at[axis]).toBeCloseTo(value);
      expect(settings.within).toBeCloseTo(0.6);
    }
  });

  it('offers what the open weight goes by: its sources that stand somewhere and the props they follow', () => {
    const document = documentOf({
      props: [
        {
          ...(standard(['props', 0]) as object),
          id: 'a',
          name: 'A',
          weight: {
            ...(standard(['props', 0, 'weight']) as object),
            stack: [layer('sweep', {}), layer('ring', {}), layer('reach', { props: ['b'] })],
          },
        },
        { ...(standard(['props', 0]) as object), id: 'b', name: 'Driver' },
      ],
    });
    const scene = { document, numbers: {}, tracks: {}, frame: 1 };
    expect(thingsOf(scene, 'timing', 0, '').map((thing) => thing.name)).toEqual(['Source 2', 'Driver']);
    expect(thingsOf(scene, 'prop', 1, '').map((thing) => thing.name)).toEqual(['Driver']);
    expect(thingsOf(scene, 'break', 1, '')).toEqual([]);
  });

  it('offers the force that is open, if it stands somewhere', () => {
    const force = (kind: string, settings: object) => ({
      ...(standard(['forces', 0]) as object),
      id: kind,
      name: kind,
      force: kind,
      [kind]: both(standard(['forces', 0, kind]), settings),
    });
    const document = documentOf({
      forces: [
        force('gravity', {}),
        force('wind', { everywhere: false, within: 0.5, at: { x: 1 } }),
        force('swirl', { core: 0.4 }),
        { ...force('blast', {}), on: false },
        force('pull', { to: 'prop' }),
      ],
    });
    const scene = { document, numbers: {}, tracks: {}, frame: 1 };
    const open = (id: string | null) => thingsOf(scene, 'motion', 0, '', id).filter((thing) => thing.ofShot);
    expect([null, 'gravity', 'blast', 'pull', 'nobody'].flatMap(open)).toEqual([]);
    const [wind] = open('wind');
    expect(wind?.place(1).toArray()).toEqual([1, 0, 0]);
    const moved = wind?.apply(document, { move: new THREE.Vector3(0, 2, 0), size: 2 });
    expect(moved?.forces[1]?.wind).toMatchObject({ at: { x: 1, y: 2, z: 0 }, within: 1 });
    const [swirl] = open('swirl');
    expect(swirl?.apply(document, { size: 0.5 }).forces[2]?.swirl.core).toBeCloseTo(0.2);
  });

  it('says a turn in degrees that are near to what they were', () => {
    for (const degrees of [
      [10, 20, 30],
      [0, 95, 0],
      [370, 0, -200],
      [170, 80, -170],
    ]) {
      const near = new THREE.Vector3(...(degrees as [number, number, number]));
      const back = toDegrees(fromDegrees(near), near);
      back.toArray().forEach((value, k) => expect(value).toBeCloseTo(degrees[k] ?? 0, 6));
    }
  });
});

describe('a curve', () => {
  const path = ['props', 0, 'weight', 'curve'];
  const document = () =>
    withProp(['weight'], {
      ...(standard(['props', 0, 'weight']) as object),
      stack: [{}],
      curve: [
        [0, 0],
        [0.5, 0.2],
        [1, 1],
      ],
    });

  it('moves its points by arrow keys within their neighbours, takes them away, and becomes straight again', async () => {
    const { user, getAllByRole, getByRole, queryByRole, seen } = show(<Field path={path} />, document());
    const curve = () => seen.document.props[0]?.weight.curve;
    getAllByRole('slider')[1]?.focus();
    await user.keyboard('{ArrowUp}{Shift>}{ArrowRight}{/Shift}');
    expect(curve()).toEqual([
      [0, 0],
      [0.6, 0.21],
      [1, 1],
    ]);
    await user.keyboard('{Shift>}{ArrowRight}{ArrowRight}{ArrowRight}{ArrowRight}{ArrowRight}{/Shift}');
    expect(curve()?.[1]).toEqual([0.99, 0.21]);
    await user.keyboard('{Delete}');
    expect(curve()).toEqual([
      [0, 0],
      [1, 1],
    ]);
    expect(queryByRole('button', { name: 'Straight again' })).toBeNull();
    getAllByRole('slider')[0]?.focus();
    await user.keyboard('{ArrowUp}');
    await user.click(getByRole('button', { name: 'Straight again' }));
    expect(curve()).toEqual([
      [0, 0],
      [1, 1],
    ]);
  });
});

describe('a further weight', () => {
  it('is chosen from the others, never itself, and said when it is gone', async () => {
    const weight = (id: string) => ({
      ...(standard(['props', 0, 'weights', 0]) as object),
      id,
      name: id.toUpperCase(),
      stack: [layerOf('other', { weight: 'gone' })],
    });
    const layerOf = (kind: string, settings: object) => ({
      ...(standard(['props', 0, 'weight', 'stack', 0]) as object),
      source: kind,
      [kind]: settings,
    });
    const document = documentOf({
      props: [
        { ...(standard(['props', 0]) as object), id: 'a', name: 'A', weights: ['one', 'two'].map(weight) },
      ],
    });
    const { user, getByRole, findByRole, queryByRole, seen } = show(
      <Field path={['props', 0, 'weights', 0, 'stack', 0, 'other', 'weight']} />,
      document,
    );
    await user.click(getByRole('combobox', { name: 'Which' }));
    await findByRole('option', { name: '“gone” is gone' });
    expect(queryByRole('option', { name: 'ONE' })).toBeNull();
    await user.click(getByRole('option', { name: 'TWO' }));
    expect(seen.document.props[0]?.weights[0]?.stack[0]?.other).toEqual({ weight: 'two' });
  });
});
