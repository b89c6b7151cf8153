import type { ReactNode } from 'react';

/** A place to drop files on: they are meant for this, not for the page around it. */
export function DropBox({ onFiles, children }: { onFiles: (files: File[]) => void; children: ReactNode }) {
  return (
    <div
      role="presentation"
      className="relative my-2 rounded-md border border-dashed border-ink-2 p-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        onFiles([...event.dataTransfer.files]);
      }}
    >
      {children}
    </div>
  );
}
