import { X } from 'lucide-react';
import { Toast } from 'radix-ui';
import { useView, type Notice } from '../state/view';
import { Button, IconButton } from './controls';

/** Errors stay until they are read. */
const INFO_MS = 8000;

export function Notices() {
  const notices = useView((view) => view.notices);
  return (
    <Toast.Provider swipeDirection="right" label="Message">
      {notices.map((notice) => (
        <NoticeCard key={notice.id} notice={notice} />
      ))}
      <Toast.Viewport className="fixed right-4 bottom-40 z-50 flex w-80 flex-col gap-2 outline-none" />
    </Toast.Provider>
  );
}

function NoticeCard({ notice }: { notice: Notice }) {
  const dismiss = useView((view) => view.dismiss);
  const isError = notice.kind === 'error';
  return (
    <Toast.Root
      type={isError ? 'foreground' : 'background'}
      duration={isError ? Infinity : INFO_MS}
      onOpenChange={(open) => !open && dismiss(notice.id)}
      className={`rounded-md border bg-card p-3 shadow-xl ${isError ? 'border-error' : 'border-line'}`}
    >
      <div className="flex items-start justify-between gap-2">
        <Toast.Title className={`font-semibold ${isError ? 'text-error' : ''}`}>{notice.title}</Toast.Title>
        <Toast.Close asChild>
          <IconButton label="Close this message" className="-mt-1.5 -mr-1.5">
            <X size={15} />
          </IconButton>
        </Toast.Close>
      </div>
      {notice.detail ? (
        <Toast.Description className="text-ink-2" role={isError ? 'alert' : undefined}>
          {notice.detail}
        </Toast.Description>
      ) : null}
      {notice.actions?.map((action) => (
        <Toast.Action key={action.label} altText={action.label} asChild>
          <Button className="mt-2 mr-2" onClick={action.run}>
            {action.label}
          </Button>
        </Toast.Action>
      ))}
    </Toast.Root>
  );
}
