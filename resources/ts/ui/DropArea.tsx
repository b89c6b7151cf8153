import { useState, type ReactNode } from 'react';

/** Takes files that are dropped anywhere on what it holds; says so while they are over it, and while they are read. */
export function DropArea({
  says,
  className = '',
  onFiles,
  children,
}: {
  says: string;
  className?: string;
  onFiles: (files: File[]) => Promise<void>;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  const [reading, setReading] = useState('');
  const carries = (event: React.DragEvent) => event.dataTransfer.types.includes('Files');
  return (
    <div
      role="presentation"
      className={`relative ${className}`}
      data-testid="drop-area"
      onDragOver={(event) => {
        if (!carries(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        if (!carries(event)) return;
        event.preventDefault();
        setOver(false);
        const files = [...event.dataTransfer.files];
        setReading(files.map((file) => file.name).join(', '));
        void onFiles(files).finally(() => setReading(''));
      }}
    >
      {children}
      {reading ? (
        <div
          role="status"
          className="pointer-events-none absolute top-3 left-1/2 z-30 max-w-[80%] -translate-x-1/2 truncate rounded-md bg-ink/80 px-3 py-1 text-[12px] text-paper"
        >
          Reading {reading} …
        </div>
      ) : null}
      {over ? (
        <div className="pointer-events-none absolute inset-2 z-30 flex items-center justify-center rounded-md border-2 border-dashed border-teal bg-teal-wash/80 text-[15px] font-semibold text-teal">
          {says}
        </div>
      ) : null}
    </div>
  );
}
