import { useContext } from 'react';
import { chosen } from '../api/schema';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import type { Line } from './plane';

/** The lines of the open prop, and a way to change them; each change is one step that can be undone. */
export function useLines() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const pattern = chosen(prop?.break, 'pattern');
  const lines = (pattern.settings['lines'] ?? []) as Line[];
  return {
    lines,
    change: (next: Line[]) =>
      handle.edit((doc) => write(doc, ['props', propIndex, 'break', pattern.kind, 'lines'], next)),
  };
}
