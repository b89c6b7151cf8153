import { X } from 'lucide-react';
import { useEffect } from 'react';
import { useView, type Notice } from '../state/view';
import { Button, IconButton } from './controls';

export function Notices() {
  const notices = useView((view) => view.notices);
  return (
    <div className="fixed right-4 bottom-40 z-50 flex w-80 flex-col gap-2" aria-live="polite">
      {notices.map((notice) => (
        <NoticeCard key={notice.id} notice={notice} />
      ))}
    </div>
  );
}

function NoticeCard({ notice }: { notice: Notice }) {
  const dismiss = useView((view) => view.dismiss);
  useEffect(() => {
    // Errors stay until they are read.
    if (notice.kind === 'error') return;
    const timer = window.setTimeout(() => dismiss(notice.id), 8000);
    return () => window.clearTimeout(timer);
  }, [notice, dismiss]);
  return (
    <div
      role={notice.kind === 'error' ? 'alert' : 'status'}
      className={`rounded-md border bg-card p-3 shadow-xl ${notice.kind === 'error' ? 'border-error' : 'border-line'}`}
    >
      <div className="flex items-start justify-between gap-2">
        <p className={`font-semibold ${notice.kind === 'error' ? 'text-error' : ''}`}>{notice.title}</p>
        <IconButton label="Close this message" className="-mt-1.5 -mr-1.5" onClick={() => dismiss(notice.id)}>
          <X size={15} />
        </IconButton>
      </div>
      {notice.detail ? <p className="text-ink-2">{notice.detail}</p> : null}
      {notice.actions?.map((action) => (
        <Button
          key={action.label}
          className="mt-2 mr-2"
          onClick={() => {
            action.run();
            dismiss(notice.id);
          }}
        >
          {action.label}
        </Button>
      ))}
    </div>
  );
}
