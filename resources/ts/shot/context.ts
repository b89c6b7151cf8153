import { createContext } from 'react';
import type { BakeState, Finding, PropDocument, PropReadout, ReadoutRow, Tracks } from '../api/types';
import type { ShotHandle } from '../state/useShot';
import type { Numbers } from '../state/numbers';
import type { FrameStore } from '../tracks/FrameStore';
import type { Beside } from './useBeside';
import type { DrawnWeight } from './useDrawnWeight';

/** The open shot and what hangs on it, for everything on the screen. */
export interface ShotScope {
  handle: ShotHandle;
  prop: PropDocument | undefined;
  propIndex: number;
  bake: BakeState | null;
  rows: ReadoutRow[];
  frames: FrameStore | null;
  /** Other bakes that this one is compared with. */
  beside: Beside[];
  readouts: Record<string, PropReadout | undefined>;
  readoutError: string | null;
  findings: Finding[];
  tracks: Tracks;
  /** Whether everything edited is stored and the tracks are those of it: what was shown ahead of the server can go. */
  settled: boolean;
  numbers: Numbers;
  weight: DrawnWeight | null;
  startBake: () => void;
  cancelBake: () => void;
  /** Shows an older bake of the shot instead. */
  showBake: (id: string) => Promise<void>;
}

export const ShotContext = createContext<ShotScope>(null as unknown as ShotScope);
