import { request } from './client';
import { fieldAt, standard } from './schema';
import type { PropDocument } from './types';
import { both, newId } from '../state/document';

/** What can be brought in, and how the names of such files end. */
export const FILES = {
  mesh: { none: 'No file yet. OBJ, STL, PLY or GLB.', accept: '.obj,.stl,.ply,.glb', file: 'file' },
  art: { none: 'No art yet. SVG, or PNG with a clear background.', accept: '.svg,.png', file: 'art' },
  font: { none: 'No font yet. TTF, OTF or WOFF.', accept: '.ttf,.otf,.woff', file: 'font' },
  picture: { none: 'No picture yet. PNG or JPEG.', accept: '.png,.jpg,.jpeg', file: 'picture' },
  camera: { none: 'A GLB with a camera.', accept: '.glb', file: 'file' },
};
export type FileKind = keyof typeof FILES;

/** What the server says of a file. */
export interface Brought {
  asset: string;
  name: string;
  cameras?: { node: number; name: string; moves: boolean }[];
}

/** Gives a file to the server, which reads it in full before it keeps it. */
export async function sendFile(kind: FileKind, file: File): Promise<Brought> {
  const form = new FormData();
  form.append('file', file);
  form.append('as', kind);
  return (await (await request('assets', { method: 'POST', body: form })).json()) as Brought;
}

/** What a file of such a name is as a source of a prop; null: nothing. */
export function sourceFor(fileName: string): { source: string; kind: FileKind } | null {
  const ending = /\.[^.]+$/.exec(fileName.toLowerCase())?.[0] ?? '';
  const kinds = fieldAt(['props', 0, 'source', 'kind']).enum ?? [];
  for (const source of kinds) {
    const kind = fieldAt(['props', 0, 'source', source]).traits?.['upload'] as FileKind | undefined;
    if (kind && FILES[kind].accept.split(',').includes(ending)) return { source, kind };
  }
  return null;
}

/** A name for a prop, from its file's. */
export function nameOf(fileName: string): string {
  const stem = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return (stem.charAt(0).toUpperCase() + stem.slice(1)).slice(0, 80) || 'Prop';
}

/** A prop made of a file that is dropped, otherwise as new props are; nothing changes if it cannot be read. */
export async function propOf(file: File, taken: string[]): Promise<PropDocument> {
  const is = sourceFor(file.name);
  if (!is) {
    const endings = [FILES.mesh, FILES.art].map(({ accept }) =>
      accept.replaceAll('.', '').replaceAll(',', ', '),
    );
    throw new Error(`${file.name} is no mesh and no art: ${endings.join(', ')} can be brought in.`);
  }
  const { asset, name } = await sendFile(is.kind, file);
  return both(standard(['props', 0]), {
    id: newId(nameOf(name), taken),
    name: nameOf(name),
    source: { kind: is.source, [is.source]: { asset, fileName: name } },
  }) as PropDocument;
}
