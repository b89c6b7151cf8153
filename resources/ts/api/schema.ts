import schemaJson from '../../../core/schema/shot.schema.json';
import type { Path } from '../state/document';

/** What a form needs to know of a field; all of it comes from the document's schema. */
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
  'x-when'?: { field: string; is: unknown[] };
  'x-wide'?: boolean;
  'x-soft-maximum'?: number;
  'x-more'?: boolean;
  'x-hidden'?: boolean;
  'x-animatable'?: boolean;
  'x-vector'?: boolean;
  'x-colour'?: boolean;
  'x-cue'?: boolean;
  'x-profile'?: boolean;
}

const root = schemaJson as unknown as FieldSchema & { $defs: Record<string, FieldSchema> };

function resolve(field: FieldSchema): FieldSchema {
  return field.$ref ? (root.$defs[field.$ref.replace('#/$defs/', '')] ?? field) : field;
}

export function fieldAt(path: Path): FieldSchema {
  return path.reduce<FieldSchema>((field, key) => {
    const next = field.properties?.[key] ?? field.items;
    if (!next) throw new Error(`No field ${path.join('/')}`);
    return resolve(next);
  }, root);
}
