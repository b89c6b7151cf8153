import { useState } from 'react';
import { Kind } from '../fields/Fields';
import { usePieceEdits, type Edit } from '../stages/pieces';

const WORDS: Record<Edit['kind'], string> = { join: 'joined', again: 'broken again', lock: 'locked' };

/** What was changed by hand, in order; each can be taken back, and a pattern of its own can be set. */
export function Changes() {
  const { edits, drop, dropAll, path } = usePieceEdits();
  const [open, setOpen] = useState<number | null>(null);
  return (
    <div className="mt-2 border-t border-line pt-2" data-testid="changes">
      <p className="flex items-center justify-between gap-2">
        <span>
          {edits.length} {edits.length === 1 ? 'change' : 'changes'} by hand
        </span>
        <button type="button" className="text-teal underline" onClick={dropAll}>
          Drop all
        </button>
      </p>
      <ol>
        {edits.map((edit, k) => (
          <li key={k} className="py-0.5">
            <span className="flex items-center justify-between gap-2">
              <span className="text-ink-2">
                {WORDS[edit.kind]}
                {edit.kind === 'again' ? `, ${edit.with.pattern}` : ''}
              </span>
              <span className="flex gap-2">
                {edit.kind === 'again' ? (
                  <button
                    type="button"
                    aria-expanded={open === k}
                    className="text-teal underline"
                    onClick={() => setOpen(open === k ? null : k)}
                  >
                    Settings
                  </button>
                ) : null}
                <button
                  type="button"
                  aria-label={`Take back change ${k + 1}`}
                  className="text-teal underline"
                  onClick={() => drop(k)}
                >
                  {edit.kind === 'lock' ? 'Unlock' : 'Drop'}
                </button>
              </span>
            </span>
            {open === k && edit.kind === 'again' ? <Kind base={[...path, k, 'with']} as="pattern" /> : null}
          </li>
        ))}
      </ol>
    </div>
  );
}
