import { useState, type ReactNode } from 'react';

/** Takes files that are dropped anywhere on what it holds, and says so while they are over it. */
export function DropArea({
  says,
  className = '',
  onFiles,
  children,
}: {
  says: string;
  className?: string;
  onFiles: (files: File[]) => void;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
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
        onFiles([...event.dataTransfer.files]);
      }}
    >
      {children}
      {over ? (
        <div className="pointer-events-none absolute inset-2 z-30 flex items-center justify-center rounded-md border-2 border-dashed border-teal bg-teal-wash/80 text-[15px] font-semibold text-teal">
          {says}
        </div>
      ) : null}
    </div>
  );
}
