import { Crosshair } from 'lucide-react';
import type { Path } from '../state/document';
import { useView } from '../state/view';

/** While it is pressed, the next click on the prop says the place or the direction. */
export function PickButton({
  path,
  kind,
  label,
}: {
  path: Path;
  kind: 'point' | 'direction' | 'more';
  label: string;
}) {
  const picking = useView((view) => view.picking);
  const set = useView((view) => view.set);
  const active = picking !== null && picking.path.join('/') === path.join('/');
  return (
    <button
      type="button"
      aria-pressed={active}
      data-testid={`pick-${String(path.at(-1))}`}
      className={`inline-flex h-7 items-center gap-1.5 rounded-md border px-2 ${active ? 'border-teal bg-teal-wash text-teal' : 'border-line bg-paper hover:bg-well'}`}
      onClick={() => set({ picking: active ? null : { path, kind } })}
    >
      <Crosshair size={14} /> {active ? 'Click in the picture' : label}
    </button>
  );
}
