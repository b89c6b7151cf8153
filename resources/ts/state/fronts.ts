import { chosen, holds, type Chosen } from '../api/schema';
import type { PropDocument, ShotDocument } from '../api/types';
import type { Path } from './document';

/** A source of a weight, a force or a release that acts over a range of frames. */
export interface Front {
  /** Of its settings. */
  path: Path;
  title: string;
  from: number;
  /** Null: it goes on. */
  to: number | null;
  fields: string[];
  /** Whether its second field is not a frame, but how long it takes. */
  lasts: boolean;
}

/** When a prop lets go, and the sources of its weights that act over a range of frames; a kind says by a trait which settings begin and end it. */
export function frontsOf(prop: PropDocument | undefined, propIndex: number): Front[] {
  if (!prop) return [];
  const lists = [
    { path: ['props', propIndex, 'weight', 'stack'] as Path, stack: prop.weight.stack },
    ...prop.weights.map((weight, k) => ({
      path: ['props', propIndex, 'weights', k, 'stack'] as Path,
      stack: weight.stack,
    })),
  ];
  const trigger = frontOf(chosen(prop.release, 'trigger'), ['props', propIndex, 'release'], 'Lets go');
  return [
    ...(trigger ? [trigger] : []),
    ...lists.flatMap(({ path, stack }) =>
      stack.flatMap((layer, k) => frontOf(chosen(layer, 'source'), [...path, k]) ?? []),
    ),
  ];
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
  // What has just been chosen has its defaults once the server has answered.
  const [from, to] = fields.map((field) => Number(kind.settings[field] ?? kind.fields[field]?.default));
  const lasts = kind.has('lasts');
  return {
    path: [...owner, kind.kind],
    title: name ?? kind.title,
    from: from ?? 1,
    to: to === undefined ? null : lasts ? (from ?? 1) + to : to,
    fields,
    lasts,
  };
}
