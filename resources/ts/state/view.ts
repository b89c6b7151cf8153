import { create } from 'zustand';
import type { Span } from '../cues/span';
import type { Stage } from '../api/types';
import type { Place } from '../tracks/WeightStore';
import type { Path } from './document';
import type { Clip } from './keyEdits';

export interface Notice {
  id: number;
  kind: 'info' | 'error';
  title: string;
  detail?: string;
  actions?: { label: string; run: () => void }[];
}

/** What one is looking at; everything that a link reproduces, and what is only of the moment. */
interface View {
  stage: Stage;
  propId: string;
  frame: number;
  playing: boolean;
  loop: boolean;
  /** The frames that are played, again and again with loop; null: all. */
  span: Span | null;
  speed: number;
  pull: number;
  readout: boolean;
  /** Selected and hidden pieces of the open prop, by number. */
  pieces: number[];
  hidden: number[];
  /** Setting whose place or direction is being picked in the picture. */
  picking: { path: Path; kind: 'point' | 'direction' | 'more' } | null;
  /** Setting of the open prop's motion whose weight is drawn in the picture. */
  weighing: string | null;
  /** Force that is drawn in the picture, by id. */
  force: string | null;
  /** Which of the open prop's weights is open, by id; "": the one by which it lets go. */
  weightId: string;
  /** Number of the source of the open prop's weight that is drawn alone. */
  alone: number | null;
  /** Place whose weight is plotted over time. */
  probed: { prop: string; place: Place } | null;
  /** Whether lines are drawn on the flat board; else the prop is seen in the round. */
  board: boolean;
  tool: 'draw' | 'move';
  /** The chosen line on the board, by number. */
  line: number | null;
  /** Keys that were copied. */
  copied: Clip | null;
  /** Whether one looks through the camera of the shot. */
  through: boolean;
  /** Whether squares are drawn on the ground. */
  ground: boolean;
  /** Whether dots show what moves. */
  stirring: boolean;
  /** What is under the pointer: piece, place on the screen, on the prop and in the world. */
  hovered: {
    prop: string;
    piece: number;
    x: number;
    y: number;
    place: Place;
    at: [number, number, number];
  } | null;
  /** Bakes that the one that is shown is compared with, by id; how, and at which share of the picture's width one begins. */
  beside: string[];
  split: 'over' | 'apart';
  divide: number;
  /** Setting over several values of which trials are to be made. */
  trying: Path | null;
  dialog: 'palette' | 'shortcuts' | null;
  /** Whether the shot sheet lies beside the picture, instead of the open stage's card. */
  sheet: boolean;
  notices: Notice[];
  set: (change: Partial<Omit<View, 'set' | 'notify' | 'dismiss'>>) => void;
  notify: (notice: Omit<Notice, 'id'>) => void;
  dismiss: (id: number) => void;
}

let nextNotice = 1;

export const useView = create<View>((set) => ({
  stage: 'prop',
  propId: '',
  frame: 1,
  playing: false,
  loop: true,
  span: null,
  speed: 1,
  pull: 0.35,
  readout: true,
  pieces: [],
  hidden: [],
  picking: null,
  weighing: null,
  force: null,
  weightId: '',
  alone: null,
  probed: null,
  board: true,
  tool: 'draw',
  line: null,
  copied: null,
  through: false,
  ground: false,
  stirring: false,
  hovered: null,
  beside: [],
  split: 'over',
  divide: 0.5,
  trying: null,
  dialog: null,
  sheet: false,
  notices: [],
  set: (change) => set(change),
  notify: (notice) =>
    set((view) => ({ notices: [...view.notices.slice(-2), { ...notice, id: nextNotice++ }] })),
  dismiss: (id) => set((view) => ({ notices: view.notices.filter((n) => n.id !== id) })),
}));
