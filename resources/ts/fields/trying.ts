import { fieldAt, type FieldSchema } from '../api/schema';
import type { Path } from '../state/document';
import { quantity } from './quantity';

/** So many values at once, as the server has it. */
export const MOST = 8;

/** Whether several values of a setting can be tried: it is a number that stays one, and may change what moves. */
export function canTry(path: Path, value: unknown): boolean {
  const field = fieldAt(path);
  return (
    typeof value === 'number' &&
    !fieldAt(path.slice(0, 1))['x-still'] &&
    (field.type === 'number' || field.type === 'integer' || !!field['x-animatable'])
  );
}

/** Values to begin with: the one it has, and some about it. */
export function suggested(field: FieldSchema, value: number, name: string): number[] {
  const [low, high] = [field.minimum ?? -Infinity, field.maximum ?? Infinity];
  const whole = field.type === 'integer';
  const step = whole ? 1 : 10 * (field['x-step'] ?? 0.1);
  const about =
    name === 'seed'
      ? [0, 1, 2, 3].map((more) => value + more)
      : value === 0
        ? [0, 1, 2, 4].map((times) => times * step)
        : [0.5, 1, 1.5, 2].map((times) => times * value);
  const fit = about.map((one) => {
    const limited = Math.min(high, Math.max(low, one));
    return whole ? Math.round(limited) : Number(limited.toPrecision(6));
  });
  return [...new Set(fit)];
}

/** The numbers in what was typed, by commas, or by semicolons where there are decimal commas; with units if one likes. Null: one cannot be read. */
export function typed(text: string, unit: string | undefined): number[] | null {
  const by = text.includes(';') ? ';' : text.includes(',') ? ',' : /^[\d\s.eE+-]+$/.test(text) ? ' ' : ';';
  const parts = text
    .split(by)
    .map((part) => part.trim())
    .filter(Boolean);
  const numbers = parts.map((part) => quantity(part, unit));
  return numbers.some((number) => number === null) ? null : (numbers as number[]);
}
