import { chosen } from '../api/schema';
import type { PropDocument } from '../api/types';

export interface Front {
  title: string;
  from: number;
  to: number;
}

/** The sources of a prop's weight that act over a range of frames. */
export function frontsOf(prop: PropDocument | undefined): Front[] {
  return (prop?.weight.stack ?? []).flatMap((layer) => {
    const source = chosen(layer, 'source');
    const range = source.trait('range');
    if (!Array.isArray(range)) return [];
    const [from, to] = range.map((name) => Number(source.settings[String(name)]));
    return [{ title: source.title, from: from ?? 1, to: to ?? 1 }];
  });
}
