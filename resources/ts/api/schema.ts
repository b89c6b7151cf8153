import schemaJson from '../../../core/schema/shot.schema.json';
import type { Path } from '../state/document';

/** What a form needs to know of a field; all of it comes from the document's schema. */
/** What must hold of the other settings for a field to matter; a list means all of them. */
export type Condition =
  | { field: string; is: unknown[] }
  | { field: string; above: number }
  | { field: string; fewer: number }
  | { any: Condition[] }
  | Condition[];

export function holds(condition: Condition, values: Record<string, unknown>): boolean {
  if (Array.isArray(condition)) return condition.every((part) => holds(part, values));
  if ('any' in condition) return condition.any.some((part) => holds(part, values));
  const value = values[condition.field];
  if ('is' in condition) return condition.is.includes(value);
  if ('fewer' in condition) return !Array.isArray(value) || value.length < condition.fewer;
  return Number(value) > condition.above;
}

export interface FieldSchema {
  type?: string;
  title: string;
  description: string;
  default?: unknown;
  minimum?: number;
  maximum?: number;
  maxLength?: number;
  pattern?: string;
  enum?: string[];
  properties?: Record<string, FieldSchema>;
  items?: FieldSchema;
  $ref?: string;
  'x-unit'?: string;
  'x-step'?: number;
  'x-labels'?: Record<string, string>;
  'x-when'?: Condition;
  /** The numbers are a place or a direction that can be picked in the picture. */
  'x-pick'?: 'point' | 'direction';
  'x-wide'?: boolean;
  'x-soft-maximum'?: number;
  'x-more'?: boolean;
  'x-hidden'?: boolean;
  'x-animatable'?: boolean;
  'x-vector'?: boolean;
  'x-colour'?: boolean;
  'x-cue'?: boolean;
  'x-profile'?: boolean;
  'x-picture'?: boolean;
  'x-places'?: boolean;
}

const root = schemaJson as unknown as FieldSchema;

function resolve(field: FieldSchema): FieldSchema {
  if (!field.$ref) return field;
  const target = field.$ref
    .split('/')
    .slice(1)
    .reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], root);
  return target ? resolve(target as FieldSchema) : field;
}

export function fieldAt(path: Path): FieldSchema {
  return path.reduce<FieldSchema>((field, key) => {
    const next = field.properties?.[key] ?? field.items;
    if (!next) throw new Error(`No field ${path.join('/')}`);
    return resolve(next);
  }, root);
}

/** The value of a part of the document with every default filled in, as the server would. */
export function standard(path: Path): unknown {
  const field = fieldAt(path);
  if (field.type !== 'object' || !field.properties) return field.default;
  return Object.fromEntries(
    Object.keys(field.properties)
      .map((name) => [name, standard([...path, name])] as const)
      .filter(([, value]) => value !== undefined),
  );
}
