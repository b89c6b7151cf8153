import * as THREE from 'three';
import { chosen, holds } from '../api/schema';
import type { Animatable, ShotDocument, Stage, Tracks } from '../api/types';
import { read, write, type Path } from '../state/document';
import { withValueAt } from '../state/keys';
import { numberAt, type Numbers } from '../state/numbers';

const AXES = ['x', 'y', 'z'] as const;
const DECIMALS = 1e4;

/** A change by hand since the thing was taken: in the shot's axes. */
export interface Change {
  move?: THREE.Vector3;
  turn?: THREE.Quaternion;
  /** How many times as large. */
  size?: number;
}

/** Something that stands in the picture and can be taken by the hand. */
export interface Thing {
  key: string;
  name: string;
  /** Where it stands in the shot at a frame. */
  place: (frame: number) => THREE.Vector3;
  turns: boolean;
  sizes: boolean;
  /** Whether it stands in the shot by itself, whatever props do. */
  ofShot?: boolean;
  /** Whether it is all that is seen: there is nothing to set it on. */
  whole?: boolean;
  /** The prop itself, if it is one: its pose with the change, to be shown before it is stored. */
  prop?: { id: string; pose: number[] };
  apply: (document: ShotDocument, change: Change) => ShotDocument;
}

export interface Scene {
  document: ShotDocument;
  numbers: Numbers;
  tracks: Tracks;
  frame: number;
}

export const rounded = (value: number): number => Math.round(value * DECIMALS) / DECIMALS;

function vectorAt(scene: Scene, path: Path, frame = scene.frame): THREE.Vector3 {
  const [x, y, z] = AXES.map((axis) => numberAt(scene.numbers, scene.document, [...path, axis], frame));
  return new THREE.Vector3(x, y, z);
}

/** Turned about the fixed axes x, then y, then z. */
export function fromDegrees(degrees: THREE.Vector3): THREE.Quaternion {
  const [x, y, z] = degrees.toArray().map(THREE.MathUtils.degToRad) as [number, number, number];
  return new THREE.Quaternion().setFromEuler(new THREE.Euler(x, y, z, 'ZYX'));
}

/** The same turn in degrees, each as near as it can be to what it was, so that a key before is not turned round to. */
export function toDegrees(turn: THREE.Quaternion, near: THREE.Vector3): THREE.Vector3 {
  const euler = new THREE.Euler().setFromQuaternion(turn, 'ZYX');
  const plain = [euler.x, euler.y, euler.z].map(THREE.MathUtils.radToDeg) as [number, number, number];
  // Past a quarter turn about y there is another way to say it.
  const other: [number, number, number] = [plain[0] + 180, 180 - plain[1], plain[2] + 180];
  const unwound = [plain, other].map((way) =>
    way.map((value, k) => {
      const was = near.getComponent(k);
      return value + 360 * Math.round((was - value) / 360);
    }),
  );
  const far = (way: number[]) =>
    way.reduce((sum, value, k) => sum + Math.abs(value - near.getComponent(k)), 0);
  const [a = [], b = []] = unwound;
  return new THREE.Vector3(...((far(b) < far(a) - 1e-6 ? b : a) as [number, number, number]));
}

/** Three numbers at the frame one looks at; those that are keyed get a key there, those that stay are left alone. */
export function putVector(
  document: ShotDocument,
  scene: Scene,
  path: Path,
  value: THREE.Vector3,
): ShotDocument {
  return AXES.reduce((doc, axis, k) => {
    const at = [...path, axis];
    const was = numberAt(scene.numbers, scene.document, at, scene.frame);
    const now = rounded(value.getComponent(k));
    return Math.abs(now - was) < 0.5 / DECIMALS
      ? doc
      : write(doc, at, withValueAt(read(doc, at) as Animatable, scene.frame, now, doc.cues));
  }, document);
}

function scaled(document: ShotDocument, scene: Scene, path: Path, size: number): ShotDocument {
  const value = read(document, path);
  if (value === undefined) return document;
  if (typeof value === 'object' && value !== null && !('keys' in value))
    return AXES.reduce((doc, axis) => scaled(doc, scene, [...path, axis], size), document);
  const now = rounded(Math.max(0.001, size * numberAt(scene.numbers, scene.document, path, scene.frame)));
  return write(document, path, withValueAt(value as Animatable, scene.frame, now, document.cues));
}

export interface Pose {
  position: THREE.Vector3;
  turn: THREE.Quaternion;
  scale: THREE.Vector3;
}

const STILL: Pose = {
  position: new THREE.Vector3(),
  turn: new THREE.Quaternion(),
  scale: new THREE.Vector3(1, 1, 1),
};

/** Where the path of a prop has got to, and how it is turned there, as the server has it; a prop without one stands in the shot itself. */
function pathOf({ document, tracks }: Scene, prop: Path, frame: number): Pose {
  const { id, path } = read(document, prop) as ShotDocument['props'][number];
  const track = path.on ? (tracks[id] ?? []) : [];
  const [x, y, z, qx, qy, qz, qw] =
    track[Math.min(track.length, Math.max(1, Math.round(frame))) - 1]?.slice(10) ?? [];
  return x === undefined
    ? STILL
    : {
        position: new THREE.Vector3(x, y, z),
        turn: new THREE.Quaternion(qx, qy, qz, qw),
        scale: STILL.scale,
      };
}

/** Where a prop stands, from its settings. */
export function poseOf(scene: Scene, prop: Path, frame = scene.frame): Pose {
  const path = pathOf(scene, prop, frame);
  return {
    position: carried(path, vectorAt(scene, [...prop, 'position'], frame)),
    turn: path.turn.clone().multiply(fromDegrees(vectorAt(scene, [...prop, 'rotation'], frame))),
    scale: vectorAt(scene, [...prop, 'scale'], frame),
  };
}

/** A place of a prop's own space, in the shot. */
export function carried({ position, turn, scale }: Pose, place: THREE.Vector3): THREE.Vector3 {
  return place.clone().multiply(scale).applyQuaternion(turn).add(position);
}

/** Whether what has these settings stands in the shot by itself, and not in its prop. */
export function standsInShot(settings: unknown): boolean {
  return (settings as { space?: string } | undefined)?.space === 'shot';
}

export function propThing(scene: Scene, index: number): Thing | null {
  const prop = scene.document.props[index];
  if (!prop) return null;
  const base: Path = ['props', index];
  const { position, turn, scale } = poseOf(scene, base);
  const own = vectorAt(scene, [...base, 'position']);
  const rotation = vectorAt(scene, [...base, 'rotation']);
  const back = pathOf(scene, base, scene.frame).turn.clone().invert();
  return {
    key: prop.id,
    name: prop.name,
    turns: true,
    sizes: true,
    place: (frame) => poseOf(scene, base, frame).position,
    prop: { id: prop.id, pose: [...position.toArray(), ...turn.toArray(), ...scale.toArray()] },
    apply: (document, change) => {
      let doc = document;
      if (change.move)
        doc = putVector(
          doc,
          scene,
          [...base, 'position'],
          change.move.clone().applyQuaternion(back).add(own),
        );
      if (change.turn)
        doc = putVector(
          doc,
          scene,
          [...base, 'rotation'],
          toDegrees(back.clone().multiply(change.turn).multiply(turn), rotation),
        );
      if (change.size) doc = scaled(doc, scene, [...base, 'scale'], change.size);
      return doc;
    },
  };
}

/** A source of a weight that stands somewhere: its place, its turn and its sizes are said by traits of its kind. */
function sourceThing(
  scene: Scene,
  propIndex: number,
  stack: Path,
  layer: number,
  name: string,
): Thing | null {
  const owner = read(scene.document, [...stack, layer]) as object;
  const kind = chosen(owner, 'source');
  const at = kind.trait('place');
  if (typeof at !== 'string') return null;
  const base: Path = [...stack, layer, kind.kind];
  const body: Path = ['props', propIndex];
  const inShot = standsInShot(kind.settings);
  const standsIn = (frame: number) => (inShot ? STILL : poseOf(scene, body, frame));
  const turnField = kind.trait('turn');
  const turns = typeof turnField === 'string';
  const sizes = kind.trait('sizes');
  const here = standsIn(scene.frame);
  const start = vectorAt(scene, [...base, at]);
  return {
    key: base.join('/'),
    name,
    turns,
    sizes: Array.isArray(sizes),
    place: (frame) => carried(standsIn(frame), vectorAt(scene, [...base, at], frame)),
    apply: (document, change) => {
      let doc = document;
      if (change.move) {
        const own = change.move.clone().applyQuaternion(here.turn.clone().invert()).divide(here.scale);
        doc = putVector(doc, scene, [...base, at], start.clone().add(own));
      }
      if (change.turn && turns) {
        const rotation = vectorAt(scene, [...base, turnField]);
        const own = here.turn
          .clone()
          .invert()
          .multiply(change.turn)
          .multiply(here.turn)
          .multiply(fromDegrees(rotation));
        doc = putVector(doc, scene, [...base, turnField], toDegrees(own, rotation));
      }
      if (change.size && Array.isArray(sizes))
        for (const field of sizes as string[]) doc = scaled(doc, scene, [...base, field], change.size);
      return doc;
    },
  };
}

/** A force that stands somewhere in the shot; its knob makes larger how far it reaches. */
function forceThing(scene: Scene, index: number): Thing | null {
  const force = scene.document.forces[index];
  if (!force?.on) return null;
  const kind = chosen(force, 'force');
  const at = kind.trait('stands');
  const when = typeof at === 'string' ? kind.fields[at]?.['x-when'] : undefined;
  if (typeof at !== 'string' || (when && !holds(when, kind.settings, kind.settings))) return null;
  const base: Path = ['forces', index, kind.kind];
  const sizes = [
    ...(kind.settings['everywhere'] === false ? ['within'] : []),
    ...[kind.trait('sizes')].flat().filter((name) => typeof name === 'string'),
  ];
  const start = vectorAt(scene, [...base, at]);
  return {
    ofShot: true,
    key: `force ${force.id}`,
    name: force.name,
    turns: false,
    sizes: sizes.length > 0,
    place: (frame) => vectorAt(scene, [...base, at], frame),
    apply: (document, change) => {
      let doc = document;
      if (change.move) doc = putVector(doc, scene, [...base, at], start.clone().add(change.move));
      if (change.size) for (const field of sizes) doc = scaled(doc, scene, [...base, field], change.size);
      return doc;
    },
  };
}

/** The places of a line in the shot, each by itself. */
function placeThings(scene: Scene, path: Path, name: string): Thing[] {
  const places = (read(scene.document, path) ?? []) as object[];
  return places.map((_, k) => placeThing(scene, [...path, k], `${name} ${k + 1}`));
}

function placeThing(scene: Scene, at: Path, name: string): Thing {
  const start = vectorAt(scene, at);
  return {
    ofShot: true,
    key: at.join('/'),
    name,
    turns: false,
    sizes: false,
    place: () => start,
    apply: (document, change) =>
      change.move ? putVector(document, scene, at, start.clone().add(change.move)) : document,
  };
}

/** The result as a whole, where it is placed. */
function wholeThing(scene: Scene): Thing[] {
  if (!scene.document.placing.on) return [];
  const base: Path = ['placing'];
  const start = vectorAt(scene, [...base, 'position']);
  const rotation = vectorAt(scene, [...base, 'rotation']);
  return [
    {
      ofShot: true,
      whole: true,
      key: 'placing',
      name: 'the whole',
      turns: true,
      sizes: true,
      place: () => start,
      apply: (document, change) => {
        let doc = document;
        if (change.move) doc = putVector(doc, scene, [...base, 'position'], start.clone().add(change.move));
        if (change.turn)
          doc = putVector(
            doc,
            scene,
            [...base, 'rotation'],
            toDegrees(change.turn.clone().multiply(fromDegrees(rotation)), rotation),
          );
        if (change.size) doc = scaled(doc, scene, [...base, 'scale'], change.size);
        return doc;
      },
    },
  ];
}

/** Where the open joint holds on. */
function jointThings(scene: Scene, index: number): Thing[] {
  const joint = scene.document.joints[index];
  if (!joint?.on) return [];
  const kind = chosen(joint, 'joint');
  const ends = kind.trait('ends');
  return (Array.isArray(ends) ? (ends as string[]) : []).map((name) =>
    placeThing(scene, ['joints', index, kind.kind, name], kind.fields[name]?.title ?? joint.name),
  );
}

/** Places of a line that a kind has in the shot. */
function linePlaces(scene: Scene, owner: object | undefined, as: string, base: Path): Thing[] {
  if (!owner) return [];
  const kind = chosen(owner, as);
  return Object.keys(kind.fields)
    .filter((name) => kind.fields[name]?.['x-places'])
    .flatMap((name) => placeThings(scene, [...base, kind.kind, name], 'Place'));
}

/** What can be taken in a stage: the open prop; in Bake the whole, where it is placed; in Motion the force that is open, if it stands somewhere; in Timing what its weight goes by. */
export function thingsOf(
  scene: Scene,
  stage: Stage,
  propIndex: number,
  weightId: string,
  forceId: string | null = null,
): Thing[] {
  const prop = scene.document.props[propIndex];
  if (!prop) return [];
  if (stage === 'prop' || stage === 'motion') {
    const force = stage === 'motion' ? scene.document.forces.findIndex((each) => each.id === forceId) : -1;
    return [
      propThing(scene, propIndex),
      ...(prop.path.on ? placeThings(scene, ['props', propIndex, 'path', 'places'], 'Place') : []),
      forceThing(scene, force),
      ...linePlaces(scene, scene.document.forces[force], 'force', ['forces', force]),
      ...(stage === 'motion' ? linePlaces(scene, prop.motion, 'mover', ['props', propIndex, 'motion']) : []),
      ...(stage === 'motion'
        ? jointThings(
            scene,
            scene.document.joints.findIndex((joint) => joint.id === forceId),
          )
        : []),
    ].filter((thing) => thing !== null);
  }
  if (stage === 'bake') return wholeThing(scene);
  if (stage !== 'timing') return [];
  const further = prop.weights.findIndex((weight) => weight.id === weightId);
  const stack: Path = ['props', propIndex, ...(further < 0 ? ['weight'] : ['weights', further]), 'stack'];
  const layers = (read(scene.document, stack) ?? []) as object[];
  const drivers = new Set(
    layers.flatMap((layer) => {
      const kind = chosen(layer, 'source');
      return Object.keys(kind.fields)
        .filter((name) => kind.fields[name]?.['x-props'])
        .flatMap((name) => kind.settings[name] as string[]);
    }),
  );
  return [
    ...layers.map((_, layer) => sourceThing(scene, propIndex, stack, layer, `Source ${layer + 1}`)),
    ...scene.document.props.map((other, index) => (drivers.has(other.id) ? propThing(scene, index) : null)),
  ].filter((thing) => thing !== null);
}
