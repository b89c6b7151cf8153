import { chosen } from '../api/schema';
import type { Cue } from '../api/types';

/** Whether a cue stands where something happens, and not where it is put. */
export function isFound(cue: Cue): boolean {
  const moment = chosen(cue.at, 'moment');
  // One that has just been made has no settings before the server has filled them in.
  return moment.kind !== '' && !moment.has('hand');
}

/** Whether it is found in what was baked. */
export function isBaked(cue: Cue): boolean {
  return chosen(cue.at, 'moment').has('baked');
}
