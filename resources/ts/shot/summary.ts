import { chosen, type Chosen } from '../api/schema';
import type { BakeState, PropDocument, PropReadout, ShotDocument, Stage } from '../api/types';
import { text } from '../api/text';

export const STAGES: { id: Stage; title: string; question: string }[] = [
  { id: 'prop', title: 'Prop', question: 'What is it?' },
  { id: 'break', title: 'Break', question: 'How does it come apart?' },
  { id: 'timing', title: 'Timing', question: 'When does it let go?' },
  { id: 'motion', title: 'Motion', question: 'How does it move?' },
  { id: 'bake', title: 'Bake', question: 'Is it right?' },
  { id: 'handoff', title: 'Hand-off', question: 'What goes on to the others?' },
];

/** A kind's summary with its settings filled in: words for choices, names for cues, counts for lists. */
export function inWords(
  kind: Chosen,
  document: ShotDocument,
  more: Record<string, string> = {},
  prop?: PropDocument,
): string {
  return kind.summary.replace(/\{(\w+)\}/g, (_, name: string) => {
    const value = kind.settings[name];
    const field = kind.fields[name];
    if (more[name] !== undefined) return more[name];
    if (field?.['x-cue']) return document.cues.find((cue) => cue.id === value)?.name ?? 'no cue yet';
    if (field?.['x-prop']) return document.props.find((prop) => prop.id === value)?.name ?? 'no prop yet';
    if (field?.['x-props'] && Array.isArray(value)) {
      const names = document.props.filter((prop) => value.includes(prop.id)).map((prop) => prop.name);
      return names.join(', ') || 'no prop yet';
    }
    if (field?.['x-weights'])
      return prop?.weights.find((weight) => weight.id === value)?.name.toLowerCase() ?? 'another weight';
    if (field?.['x-labels']) {
      const label = field['x-labels'][String(value)] ?? String(value);
      return label.charAt(0).toLowerCase() + label.slice(1);
    }
    if (Array.isArray(value)) return String(value.length);
    if (typeof value === 'object' && value !== null) return 'keyed';
    return typeof value === 'number' ? String(Number(value.toPrecision(4))) : text(value);
  });
}

/** What the numbers of a bake count, and one of it: pieces, or the vertices of what moves by them. */
export function counted(document: ShotDocument): { many: string; one: string } {
  const on = document.props.filter((prop) => prop.on);
  const bends = (prop: PropDocument) => chosen(prop.motion, 'mover').has('vertices');
  const bent = on.filter(bends);
  // What bends moves, and may be torn, also where it never lets go.
  const moving = on.filter((prop) => bends(prop) || !chosen(prop.release, 'trigger').has('never'));
  if (bent.length === 0) return { many: 'pieces', one: 'piece' };
  if (bent.length === moving.length) return { many: 'vertices', one: 'vertex' };
  return { many: 'pieces, vertices', one: 'piece or vertex' };
}

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
    case 'prop': {
      const source = chosen(prop.source, 'kind');
      return inWords(source, document) || `no ${source.has('upload') ? 'file' : 'shape'} yet`;
    }
    case 'break': {
      const pattern = chosen(prop.break, 'pattern');
      const count = pattern.has('whole') || !readout?.pieces ? '' : `${readout.pieces.count} pieces, `;
      return `${count}${inWords(pattern, document)}`;
    }
    case 'timing': {
      const mover = chosen(prop.motion, 'mover');
      const below = mover.has('set')
        ? document.props.find((each) => each.id === mover.settings['on'])?.name
        : undefined;
      if (below)
        return inWords(chosen(prop.release, 'trigger'), document, { weight: `by the weight of ${below}` });
      const sources = prop.weight.stack.map((layer) => inWords(chosen(layer, 'source'), document, {}, prop));
      return inWords(chosen(prop.release, 'trigger'), document, {
        weight: sources.join(', ') || 'by its weight, which has no source yet',
      });
    }
    case 'motion': {
      const floors = document.planes.filter((plane) => plane.on).map((plane) => plane.name.toLowerCase());
      return [inWords(chosen(prop.motion, 'mover'), document), ...floors].join(', ');
    }
    case 'bake':
      if (!bake) return 'not baked yet';
      if (bake.status === 'queued') return 'waiting for a worker';
      if (bake.status === 'running') return `${bake.done} of ${bake.frames} frames`;
      if (bake.status === 'failed') return 'failed';
      return bake.stale ? `stale: ${bake.differences[0] ?? 'the shot has changed'}` : `${bake.frames} frames`;
    case 'handoff':
      return bake?.status === 'done' ? 'GLB, USD, meshes, table' : 'after the bake';
  }
}

export type StageState = 'empty' | 'ready' | 'stale' | 'baked';

export function stageState(stage: Stage, prop: PropDocument | undefined, bake: BakeState | null): StageState {
  if (!prop) return 'empty';
  const source = chosen(prop.source, 'kind');
  if (stage === 'prop' && source.has('upload') && source.settings['asset'] === '') return 'empty';
  if (stage === 'bake' || stage === 'handoff') {
    if (!bake || bake.status !== 'done') return 'empty';
    return bake.stale ? 'stale' : 'baked';
  }
  return 'ready';
}

/** In these stages one looks at the bake, in the others at the prop itself. */
/** Whether some of it is shown in another time than that in which it happens. */
export function playsOtherwise(document: ShotDocument): boolean {
  return (
    document.plays !== 'forward' ||
    document.props.some((prop) => !['shot', 'forward'].includes(prop.plays ?? 'shot'))
  );
}

export function showsBake(stage: Stage): boolean {
  return stage === 'motion' || stage === 'bake' || stage === 'handoff';
}
