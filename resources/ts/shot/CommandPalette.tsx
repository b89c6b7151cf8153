import { useEffect, useMemo, useState } from 'react';
import { useView } from '../state/view';
import { Modal } from '../ui/Modal';
import { useCommands } from './commands';

/** Type a few letters of what you want. */
export function CommandPalette() {
  const open = useView((view) => view.dialog === 'palette');
  const set = useView((view) => view.set);
  const commands = useCommands();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  useEffect(() => {
    setText('');
    setAt(0);
  }, [open]);
  const found = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return commands.filter((command) =>
      words.every((word) => `${command.group} ${command.title}`.toLowerCase().includes(word)),
    );
  }, [commands, text]);
  const run = (index: number) => {
    const command = found[index];
    if (!command) return;
    set({ dialog: null });
    command.run();
  };
  return (
    <Modal title="Find or do" open={open} onClose={() => set({ dialog: null })}>
      <input
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={`command-${at}`}
        aria-label="What do you want to do?"
        placeholder="play, bake, next cue …"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
          else if (event.key === 'Enter') run(at);
          else return;
          event.preventDefault();
        }}
        className="mb-2 h-9 w-full rounded-md border border-line bg-paper px-3"
      />
      <div id="commands" role="listbox" aria-label="Commands" className="max-h-[50vh] overflow-auto">
        {found.map((command, k) => (
          // The field above has the focus and takes the keys.
          // eslint-disable-next-line jsx-a11y/click-events-have-key-events
          <div
            key={command.title}
            id={`command-${k}`}
            role="option"
            tabIndex={-1}
            aria-selected={k === at}
            onPointerMove={() => setAt(k)}
            onClick={() => run(k)}
            className={`flex justify-between rounded-md px-3 py-1.5 ${k === at ? 'bg-teal-wash' : ''}`}
          >
            <span>{command.title}</span>
            <span className="text-ink-2">{command.keys}</span>
          </div>
        ))}
        {found.length === 0 ? <p className="px-3 py-2 text-ink-2">Nothing is called that.</p> : null}
      </div>
    </Modal>
  );
}
