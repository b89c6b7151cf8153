/** Gives a file to whoever looks at the page, as if they had followed a link to it. */
export function save(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** A name for files, of letters that every system takes. */
export function fileNameOf(name: string): string {
  return name.replace(/[^A-Za-z0-9._-]+/g, '-');
}
