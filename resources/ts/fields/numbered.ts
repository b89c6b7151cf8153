/** The last number in a file's name; null: it has none. */
function numberOf(name: string): number | null {
  const digits = /(\d+)\D*$/.exec(name.replace(/\.[^.]*$/, ''))?.[1];
  return digits === undefined ? null : Number(digits);
}

/** In the order of their numbers, what has none first; by name where numbers are the same. */
export function byNumber<T>(things: T[], name: (thing: T) => string): T[] {
  return [...things].sort(
    (a, b) => (numberOf(name(a)) ?? -1) - (numberOf(name(b)) ?? -1) || name(a).localeCompare(name(b)),
  );
}

/** How many numbers are left out between the first and the last. */
export function missing(names: string[]): number {
  const numbers = names.map(numberOf);
  const there = new Set(numbers.filter((number) => number !== null));
  if (there.size < 2 || there.size !== numbers.length) return 0;
  return Math.max(...there) - Math.min(...there) + 1 - there.size;
}
