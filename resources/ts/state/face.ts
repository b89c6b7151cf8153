import { chosen } from '../api/schema';
import type { PropDocument } from '../api/types';
import { text } from '../api/text';

/** Address of the art that a prop shows on its face; null: it shows none. */
export function faceUrl(shot: string, prop: PropDocument | undefined): string | null {
  const source = chosen(prop?.source, 'kind');
  const asset = text(source.settings['asset']);
  return prop && source.has('painted') && asset !== ''
    ? `/api/shots/${shot}/props/${prop.id}/face?asset=${asset}`
    : null;
}
