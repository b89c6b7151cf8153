import { useEffect } from 'react';
import { useView } from '../state/view';
import { Modal } from '../ui/Modal';
import { useCommands } from './commands';

/** How commands know a key: of a letter whether it is a capital does not tell, as it may be locked; what else shift makes of a key does. */
export function nameOf(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>): string {
  const letter = /^[a-z]$/i.test(event.key);
  const ctrl = event.ctrlKey || event.metaKey ? 'ctrl+' : '';
  const shift = event.shiftKey && (letter || event.key.length > 1) ? 'shift+' : '';
  return `${ctrl}${shift}${letter ? event.key.toLowerCase() : event.key}`;
}

/** Runs the commands' keys, except while one types or a dialog is open. */
export function useShortcuts(): void {
  const commands = useCommands();
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing =
        /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) && (target as HTMLInputElement).type !== 'range';
      const ctrl = event.ctrlKey || event.metaKey;
      if (event.altKey || useView.getState().dialog || (typing && !ctrl)) return;
      // Space and arrows belong to what has the focus, if it uses them.
      const uses = target.closest('button, a, [role="slider"], input[type="range"]');
      if (
        uses &&
        (event.key === ' ' ||
          event.key === 'Enter' ||
          (event.key.startsWith('Arrow') && target.matches('[role="slider"], input[type="range"]')))
      )
        return;
      if (target.closest('[role="dialog"]')) return;
      const name = nameOf(event);
      const command = commands.find((entry) => entry.match?.includes(name));
      if (!command) return;
      event.preventDefault();
      command.run();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [commands]);
}

export function Shortcuts() {
  const open = useView((view) => view.dialog === 'shortcuts');
  const set = useView((view) => view.set);
  const commands = useCommands();
  const groups = [...new Set(commands.map((command) => command.group))];
  return (
    <Modal title="Shortcuts" open={open} onClose={() => set({ dialog: null })}>
      <div className="grid grid-cols-2 gap-x-8 gap-y-4">
        {groups.map((group) => (
          <section key={group}>
            <h2 className="mb-1 font-semibold text-teal">{group}</h2>
            <dl>
              {commands
                .filter((command) => command.group === group && command.keys)
                .map((command) => (
                  <div key={command.title} className="flex justify-between gap-3 py-0.5">
                    <dt>{command.title}</dt>
                    <dd className="text-ink-2">{command.keys}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
        <section>
          <h2 className="mb-1 font-semibold text-teal">Numbers</h2>
          <p className="text-ink-2">
            Drag sideways, or type. ↑ and ↓ step; with Shift ten times, with Alt a tenth. Double-click sets
            the usual value back.
          </p>
        </section>
        <section>
          <h2 className="mb-1 font-semibold text-teal">Picture</h2>
          <p className="text-ink-2">
            Drag to turn, right-drag to move, wheel to come closer. A click selects the prop; in Break a
            piece, with Shift more of them, and a drag with Shift those in a box.
          </p>
        </section>
      </div>
    </Modal>
  );
}
