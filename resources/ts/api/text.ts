/** A value of a document that should be text, as text; what is missing or something else is nothing. */
export function text(value: unknown): string {
  return typeof value === 'string'
    ? value
    : typeof value === 'number' || typeof value === 'boolean'
      ? String(value)
      : '';
}
