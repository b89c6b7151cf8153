import { chosen, holds } from '../api/schema';
import type { PropDocument } from '../api/types';
import type { Path } from './document';

/** A source of a weight that acts over a range of frames. */
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
    stack.flatMap((layer, k) => {
      const source = chosen(layer, 'source');
      const range = source.trait('range');
      if (!Array.isArray(range)) return [];
      const fields = range.map(String);
      const applies = fields.every((name) => {
        const when = source.fields[name]?.['x-when'];
        return !when || holds(when, source.settings, {});
      });
      if (!applies) return [];
      const [from, to] = fields.map((name) => Number(source.settings[name]));
      return [
        { path: [...path, k, source.kind], title: source.title, from: from ?? 1, to: to ?? null, fields },
      ];
    }),
  );
}
