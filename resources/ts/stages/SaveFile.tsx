import { Download, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import { getJson, ProblemError, sendJson } from '../api/client';
import { Button } from '../ui/controls';
import { leftText } from '../ui/left';

interface ExportState {
  id?: string;
  status: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  done?: number;
  total?: number;
  error?: string | null;
  remaining?: number | null;
  href: string | null;
}

/** How often a file that is being written is asked after, ms. */
const ASK = 500;

/** Saves a file of a bake: at once, or once a worker has written it. */
export function SaveFile({
  bake,
  format,
  frame,
  testId,
  label,
  main = false,
}: {
  bake: string;
  format: string;
  frame: number;
  testId: string;
  label: string;
  main?: boolean;
}) {
  const [state, setState] = useState<ExportState | null>(null);
  const [error, setError] = useState('');
  const said = (trouble: unknown) =>
    setError(trouble instanceof ProblemError ? trouble.message : String(trouble));
  const live = state?.status === 'queued' || state?.status === 'running';
  const follow = (next: ExportState) => {
    setState(next);
    if (next.status === 'done' && next.href) {
      const link = document.createElement('a');
      link.href = next.href;
      link.download = '';
      link.click();
    }
    if (next.status === 'failed') setError(next.error ?? 'The file could not be written.');
  };
  useEffect(() => {
    if (!live || !state?.id) return;
    const timer = window.setTimeout(() => {
      getJson<ExportState>(`exports/${state.id}`).then(follow, said);
    }, ASK);
    return () => window.clearTimeout(timer);
  }, [live, state]);
  const start = () => {
    setError('');
    sendJson<ExportState>('POST', `bakes/${bake}/exports`, { format, frame }).then(follow, said);
  };
  const stop = () => {
    if (state?.id) sendJson<ExportState>('POST', `exports/${state.id}/cancel`).then(setState, said);
  };
  const share = state?.total ? (state.done ?? 0) / state.total : 0;
  return (
    <div data-testid={testId} data-status={state?.status ?? ''}>
      {live ? (
        <>
          <div
            className="mb-1 h-2 overflow-hidden rounded-sm bg-well"
            role="progressbar"
            aria-label="Writing the file"
            aria-valuemin={0}
            aria-valuemax={state.total ?? 0}
            aria-valuenow={state.done ?? 0}
          >
            <div className="h-full bg-teal" style={{ width: `${100 * share}%` }} />
          </div>
          <p className="mb-1 text-ink-2">
            {state.status === 'queued'
              ? 'Waiting for a worker.'
              : [
                  `${state.done ?? 0} of ${state.total ?? 0}`,
                  state.remaining == null ? '' : leftText(state.remaining),
                ]
                  .filter(Boolean)
                  .join(', ')}
          </p>
          <Button onClick={stop}>
            <Square size={13} /> Stop
          </Button>
        </>
      ) : (
        <Button look={main ? 'main' : undefined} onClick={start}>
          <Download size={14} /> {label}
        </Button>
      )}
      {error ? (
        <p role="alert" className="mt-1 text-error">
          {error}
        </p>
      ) : null}
    </div>
  );
}
