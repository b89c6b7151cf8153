import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { read, type Path } from '../state/document';
import { useView } from '../state/view';
import { canTry } from './trying';

/** Where one is at a number: leads to the trials of several values of it. */
export function TryValues({ path, of = '' }: { path: Path; of?: string }) {
  const { document } = useContext(ShotContext).handle.shot;
  if (!canTry(path, read(document, path))) return null;
  return (
    <button
      type="button"
      className="text-[12px] text-teal underline-offset-2 hover:underline"
      title="Bakes the shot with each of them, to compare"
      onClick={() => useView.getState().set({ trying: path, stage: 'bake', sheet: false })}
    >
      Try several values{of}
    </button>
  );
}
