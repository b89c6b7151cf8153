import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { write } from '../state/document';
import type { Line } from './plane';

/** The lines of the open prop, and a way to change them; each change is one step that can be undone. */
export function useLines() {
  const { handle, prop, propIndex } = useContext(ShotContext);
  const lines = (prop?.break.lines ?? []) as Line[];
  return {
    lines,
    change: (next: Line[]) => handle.edit((doc) => write(doc, ['props', propIndex, 'break', 'lines'], next)),
  };
}
