import type { BakeState, PropDocument, PropReadout, ShotDocument, Stage } from '../api/types';

export const STAGES: { id: Stage; title: string; question: string }[] = [
  { id: 'prop', title: 'Prop', question: 'What is it?' },
  { id: 'break', title: 'Break', question: 'How does it come apart?' },
  { id: 'timing', title: 'Timing', question: 'When does it let go?' },
  { id: 'motion', title: 'Motion', question: 'How does it move?' },
  { id: 'bake', title: 'Bake', question: 'Is it right?' },
  { id: 'handoff', title: 'Hand-off', question: 'What goes on to the others?' },
];

const SHAPES: Record<string, string> = {
  file: 'mesh file',
  art: 'flat art',
  jar: 'clay grain jar',
  lathe: 'lathe profile',
};

/** What a stage does to a prop, in words; the stage path and the shot sheet say the same. */
export function summary(
  stage: Stage,
  document: ShotDocument,
  prop: PropDocument | undefined,
  readout: PropReadout | undefined,
  bake: BakeState | null,
): string {
  if (!prop) return '';
  switch (stage) {
    case 'prop':
      return prop.source.kind === 'file' || prop.source.kind === 'art'
        ? prop.source.fileName || 'no file yet'
        : (SHAPES[prop.source.kind] ?? prop.source.kind);
    case 'break':
      return prop.break.pattern === 'whole'
        ? 'whole'
        : `${readout?.pieces ? `${readout.pieces.count} pieces, ` : ''}${
            prop.break.pattern === 'drawn'
              ? `${prop.break.lines.length} drawn lines`
              : prop.break.pattern === 'picture'
                ? `by a picture, ${prop.break.tones} tones`
                : `${prop.break.pattern === 'faces' ? 'every face' : prop.break.pattern}, seed ${prop.break.seed}`
          }`;
    case 'timing': {
      const t = prop.timing;
      if (t.release === 'frame') return `lets go at frame ${t.frame}`;
      if (t.release === 'cue')
        return `lets go at ${document.cues.find((cue) => cue.id === t.cue)?.name ?? 'no cue yet'}`;
      if (t.release === 'sweep') return `sweep along ${t.axis}, ${t.from} to ${t.to}`;
      if (t.release === 'blow') return `from the blow outward, ${t.from} to ${t.to}`;
      return t.release === 'contact' ? 'lets go on contact' : 'never lets go';
    }
    case 'motion':
      return `${prop.motion.before === 'falls' ? 'falls' : 'held'}, ${Math.round(prop.motion.density)} kg/m³${document.floor.on ? ', floor' : ''}`;
    case 'bake':
      if (!bake) return 'not baked yet';
      if (bake.status === 'queued') return 'waiting for a worker';
      if (bake.status === 'running') return `${bake.done} of ${bake.frames} frames`;
      if (bake.status === 'failed') return 'failed';
      return bake.stale ? `stale: ${bake.differences[0] ?? 'the shot has changed'}` : `${bake.frames} frames`;
    case 'handoff':
      return bake?.status === 'done' ? 'GLB, OBJ' : 'after the bake';
  }
}

export type StageState = 'empty' | 'ready' | 'stale' | 'baked';

export function stageState(stage: Stage, prop: PropDocument | undefined, bake: BakeState | null): StageState {
  if (!prop) return 'empty';
  if (stage === 'prop' && ['file', 'art'].includes(prop.source.kind) && prop.source.asset === '')
    return 'empty';
  if (stage === 'bake' || stage === 'handoff') {
    if (!bake || bake.status !== 'done') return 'empty';
    return bake.stale ? 'stale' : 'baked';
  }
  return 'ready';
}

/** In these stages one looks at the bake, in the others at the prop itself. */
export function showsBake(stage: Stage): boolean {
  return stage === 'motion' || stage === 'bake' || stage === 'handoff';
}
