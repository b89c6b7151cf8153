/** Reading and changing a document by path, without touching the old one. */
export type Path = (string | number)[];

export function read(document: unknown, path: Path): unknown {
  return path.reduce<unknown>(
    (value, key) => (value as Record<string | number, unknown> | undefined)?.[key],
    document,
  );
}

export function write<T>(document: T, path: Path, value: unknown): T {
  const [key, ...rest] = path;
  if (key === undefined) return value as T;
  const copy = (Array.isArray(document) ? [...document] : { ...document }) as Record<
    string | number,
    unknown
  >;
  copy[key] = write(copy[key], rest, value);
  return copy as T;
}

/** Lays the given fields over the ones at the path (objects merge, everything else replaces). */
export function merge<T>(document: T, path: Path, value: unknown): T {
  return write(document, path, both(read(document, path), value));
}

export function both(a: unknown, b: unknown): unknown {
  return isObject(a) && isObject(b)
    ? { ...a, ...Object.fromEntries(Object.entries(b).map(([k, v]) => [k, both(a[k], v)])) }
    : b;
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** A JSON Pointer (RFC 6901) as a path. */
export function fromPointer(pointer: string): Path {
  return pointer
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'))
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part));
}

export function newId(base: string, taken: string[]): string {
  const stem =
    base
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 30) || 'item';
  for (let k = 1; ; k++) {
    const id = k === 1 ? stem : `${stem}-${k}`;
    if (!taken.includes(id)) return id;
  }
}

/** A name that no other has: the second is numbered. */
export function freeName(name: string, taken: string[]): string {
  for (let k = 1; ; k++) {
    const free = k === 1 ? name : `${name} ${k}`;
    if (!taken.includes(free)) return free;
  }
}
