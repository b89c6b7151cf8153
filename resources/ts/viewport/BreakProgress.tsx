import { useEffect, useState } from 'react';
import { getJson, sendJson } from '../api/client';
import { leftText } from '../ui/left';

interface BreakState {
  what: string;
  done: number;
  of: number;
  remaining: number | null;
}

/** How far the preview has got: what is being done, how many are done, how long it may still take; and a way to stop it. */
export function BreakProgress({ shotId }: { shotId: string }) {
  const [state, setState] = useState<BreakState | null>(null);
  useEffect(() => {
    let stopped = false;
    let timer = 0;
    const poll = async () => {
      const next = await getJson<{ break: BreakState | null }>(`shots/${shotId}/progress`).catch(() => null);
      // Without an answer there is no count; the preview itself says what is wrong.
      if (stopped || !next) return;
      setState(next.break);
      timer = window.setTimeout(() => void poll(), 400);
    };
    // What is done at once needs no count.
    timer = window.setTimeout(() => void poll(), 700);
    return () => {
      stopped = true;
      window.clearTimeout(timer);
    };
  }, [shotId]);
  if (!state) return <>computing the preview …</>;
  return (
    <span className="flex items-center gap-2 tabular-nums" data-testid="break-progress">
      <span>
        {state.what}
        {state.of > 1 ? `: ${state.done.toLocaleString('en')} of ${state.of.toLocaleString('en')}` : ''}
        {state.remaining !== null && state.remaining > 0.5 ? `, ${leftText(state.remaining)}` : ''}
      </span>
      <button
        type="button"
        className="underline"
        onClick={() => void sendJson('POST', `shots/${shotId}/progress/stop`)}
      >
        Stop
      </button>
    </span>
  );
}
