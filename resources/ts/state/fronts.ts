import { chosen, holds, type Chosen } from '../api/schema';
import type { PropDocument, ShotDocument } from '../api/types';
import type { Path } from './document';

/** A source of a weight, or a force, that acts over a range of frames. */
export interface Front {
  /** Of its settings. */
  path: Path;
  title: string;
  from: number;
  /** Null: it goes on. */
  to: number | null;
  fields: string[];
}

/** The sources of a prop's weights that act over a range of frames; a kind says by a trait which settings begin and end it. */
export function frontsOf(prop: PropDocument | undefined, propIndex: number): Front[] {
  if (!prop) return [];
  const lists = [
    { path: ['props', propIndex, 'weight', 'stack'] as Path, stack: prop.weight.stack },
    ...prop.weights.map((weight, k) => ({
      path: ['props', propIndex, 'weights', k, 'stack'] as Path,
      stack: weight.stack,
    })),
  ];
  return lists.flatMap(({ path, stack }) =>
    stack.flatMap((layer, k) => frontOf(chosen(layer, 'source'), [...path, k]) ?? []),
  );
}

/** The forces that set in at a frame of their own. */
export function frontsOfForces({ forces }: ShotDocument): Front[] {
  return forces.flatMap((force, k) =>
    force.on ? (frontOf(chosen(force, 'force'), ['forces', k], force.name) ?? []) : [],
  );
}

function frontOf(kind: Chosen, owner: Path, name?: string): Front | null {
  const range = kind.trait('range');
  if (!Array.isArray(range)) return null;
  const fields = range.map(String);
  const applies = fields.every((field) => {
    const when = kind.fields[field]?.['x-when'];
    return !when || holds(when, kind.settings, {});
  });
  if (!applies) return null;
  const [from, to] = fields.map((field) => Number(kind.settings[field]));
  return { path: [...owner, kind.kind], title: name ?? kind.title, from: from ?? 1, to: to ?? null, fields };
}
