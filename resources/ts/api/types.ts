import type { Shot } from './document';

/** The server sends documents with every default filled in. */
type Complete<T> = T extends (infer U)[]
  ? Complete<U>[]
  : T extends object
    ? { [K in keyof T]-?: Complete<NonNullable<T[K]>> }
    : T;

export type ShotDocument = Complete<Shot>;
export type PropDocument = ShotDocument['props'][number];
export type Cue = ShotDocument['cues'][number];
export type Animatable = PropDocument['position']['x'];
export type WeightLayer = PropDocument['weight']['stack'][number];
export type Stage = 'prop' | 'break' | 'timing' | 'motion' | 'bake' | 'handoff';

export interface ShotCard {
  id: string;
  name: string;
  updated: string | null;
  revision: number | null;
  props: string[];
  frames: number;
  fps: number;
  picture: string | null;
  /** Whose it is, where people sign in; null: everybody's. */
  owner: string | null;
  /** Whether one may delete and share it. */
  mine: boolean;
  /** With whom it is shared. */
  people: string[];
}
/** Who one is; without a name nobody signs in here. */
export interface Me {
  name: string | null;
  people: string[];
}
export interface BakeState {
  id: string;
  status: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  error: string | null;
  /** Why it does not go on, if something is in its way. */
  waiting: string | null;
  frames: number;
  done: number;
  /** Frames before the first, and how many of them have been computed. */
  preRoll: number;
  rolled: number;
  pieces: number;
  /** Frames that did not have to be computed. */
  kept: number;
  elapsed: number;
  remaining: number | null;
  revision: number;
  made: string | null;
  /** What it tries: one setting over several values. */
  trial: string | null;
  props: string[];
  stale: boolean;
  differences: string[];
}
/** A bake among the others of its shot. */
export interface ListedBake {
  id: string;
  status: BakeState['status'];
  error: string | null;
  trial: string | null;
  /** Whether it is not shown by itself. */
  aside: boolean;
  /** Whether it stays, whatever comes after it. */
  pinned: boolean;
  frames: number;
  done: number;
  revision: number;
  /** What had been changed last. */
  summary: string;
  made: string | null;
  bytes: number;
}
/** Frame, how many have let go, how many move, J of motion, and of what waits for a touch the hardest one: m/s, N s (bakes of before this was measured have none). */
export type ReadoutRow = [number, number, number, number, number?, number?];
export interface FullShot extends ShotCard {
  document: ShotDocument;
  head: { id: string; number: number; summary: string };
  canUndo: boolean;
  canRedo: boolean;
  bake: BakeState | null;
}
export interface PropReadout {
  health: {
    vertices: number;
    triangles: number;
    watertight: boolean;
    openEdges: number;
    crowdedEdges: number;
    parts: number;
    volume: number;
    mass: number;
    /** What the repair did, in words; null if it was not asked for. */
    repairs: string[] | null;
    bounds: [[number, number, number], [number, number, number]];
  };
  pieces: {
    count: number;
    volumes: number[];
    smallest: { index: number; volume: number; mass: number };
    largest: { index: number; volume: number; mass: number };
    mean: number;
    /** Centre of mass and size of each piece as it is broken, m, and how many times as large it stands in the shot. */
    middles: [number, number, number][];
    sizes: [number, number, number][];
    scale: [number, number, number];
    /** Pieces that touch, and the area they share, m2. */
    touching: [number, number, number][];
    /** Slivers joined to a neighbour, and the volume taken away for joints. */
    joined: number;
    discarded: number;
    /** What an artist should know of the break. */
    notes: string[];
    /** Whether the first piece is a core that stays. */
    core: boolean;
  } | null;
}
export interface Finding {
  severity: 'stop' | 'warn';
  pointer: string;
  text: string;
  remedy: { label: string; pointer: string; value: unknown } | null;
}
/** Where each prop stands at each frame: one pose if it never changes. Seven numbers a pose. */
export type Tracks = Record<string, number[][]>;
