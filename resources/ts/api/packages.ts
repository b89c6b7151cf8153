import { fileNameOf, save } from '../ui/save';
import { request } from './client';
import type { FullShot } from './types';

/** Whether a file may be a shot from another machine. */
export function isPackage(file: File): boolean {
  return file.name.toLowerCase().endsWith('.zip');
}

/** Makes a shot of its own of a package. */
export async function openPackage(file: File): Promise<FullShot> {
  const form = new FormData();
  form.append('file', file);
  return (await (await request('packages', { method: 'POST', body: form })).json()) as FullShot;
}

/** Gives a shot out as one file, with all that it needs; with its bake, if it is to play at once there. */
export async function savePackage(shot: { id: string; name: string; withBake?: boolean }): Promise<void> {
  const packed = await request(`shots/${shot.id}/package${shot.withBake ? '?bake=1' : ''}`);
  save(await packed.blob(), `${fileNameOf(shot.name)}.zip`);
}
