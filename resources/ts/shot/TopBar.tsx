import { ChevronRight, Keyboard, Redo2, Search, Undo2 } from 'lucide-react';
import { useContext } from 'react';
import { go } from '../state/route';
import { useView } from '../state/view';
import { Button, IconButton } from '../ui/controls';
import { ShotContext } from './context';

export function TopBar() {
  const { handle } = useContext(ShotContext);
  const { shot, saving } = handle;
  const set = useView((view) => view.set);
  return (
    <header className="flex items-center justify-between gap-4 border-b border-line bg-card px-3">
      <div className="flex min-w-0 items-center gap-1">
        <Button look="quiet" className="!px-2 font-semibold" onClick={() => go('/')}>
          Yard Break
        </Button>
        <ChevronRight size={14} className="text-ink-2" aria-hidden />
        <h1 className="truncate font-semibold">{shot.name}</h1>
      </div>
      <Button className="w-64 !justify-between text-ink-2" onClick={() => set({ dialog: 'palette' })}>
        <span className="flex items-center gap-2">
          <Search size={14} /> find or do
        </span>
        <kbd className="text-[12px]">Ctrl K</kbd>
      </Button>
      <div className="flex items-center gap-1">
        <IconButton
          label={shot.canUndo ? `Undo: ${shot.head.summary}` : 'Nothing to undo'}
          keys="Ctrl Z"
          disabled={!shot.canUndo}
          onClick={handle.undo}
        >
          <Undo2 size={16} />
        </IconButton>
        <IconButton
          label={shot.canRedo ? 'Redo' : 'Nothing to redo'}
          keys="Ctrl Shift Z"
          disabled={!shot.canRedo}
          onClick={handle.redo}
        >
          <Redo2 size={16} />
        </IconButton>
        <IconButton label="Shortcuts" keys="?" onClick={() => set({ dialog: 'shortcuts' })}>
          <Keyboard size={16} />
        </IconButton>
        <span className="w-32 text-right text-[12px] text-ink-2" role="status" data-testid="saving">
          {saving === 'saving'
            ? 'saving …'
            : saving === 'waiting'
              ? 'not saved yet'
              : saving === 'conflict'
                ? 'not saved: changed elsewhere'
                : `saved, revision ${shot.head.number}`}
        </span>
      </div>
    </header>
  );
}
