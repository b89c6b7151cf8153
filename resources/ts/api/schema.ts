import type { Path } from '../state/document';
import schemaJson from './schema.json';
import { text } from './text';

/**
 * What a form needs to know of the document; all of it comes from the document's schema. No kind of thing is named anywhere
 * in the interface: what it must know of one is a trait in the kind's schema file.
 */

/** What must hold of other settings for a field to matter; a list means all of them. A slash in front: seen from the prop. */
export type Condition =
  | { field: string; is: unknown[] }
  | { field: string; above: number }
  | { field: string; below: number }
  | { field: string; fewer: number }
  | { field: string; some: true }
  | { choice: string; trait: string }
  | { any: Condition[] }
  | Condition[];

type Values = Record<string, unknown>;

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
  /** Nothing within it changes what moves. */
  'x-still'?: boolean;
  'x-hidden'?: boolean;
  /** Each of the list can be drawn in the picture. */
  'x-drawn'?: boolean;
  /** Not of the first in a list. */
  'x-later'?: boolean;
  'x-animatable'?: boolean;
  'x-vector'?: boolean;
  'x-colour'?: boolean;
  'x-cue'?: boolean;
  /** Names an animation of the prop's file. */
  'x-clip'?: boolean;
  'x-profile'?: boolean;
  'x-picture'?: boolean;
  'x-pictures'?: boolean;
  'x-places'?: boolean;
  /** Where what is in it stands: in the shot; else in the prop's own space. */
  'x-space'?: 'shot';
  /** What one clicks while places are picked for it. */
  'x-click'?: string;
  maxItems?: number;
  /** Id of a prop of the shot; what stands for none is called so. */
  'x-prop'?: boolean;
  'x-none'?: string;
  /** Ids of other props. */
  'x-props'?: boolean;
  /** A number that stays on one side of another of the same object: the other gives way. */
  'x-order'?: { below?: string; above?: string };
  /** The field names a kind of this registry. */
  'x-choice'?: string;
  /** The object holds one kind of a registry, named by a field. */
  'x-kinds'?: { registry: string; as: string; default: string };
  /** A curve through points from 0 to 1. */
  'x-curve'?: boolean;
  /** What is painted by hand. */
  'x-strokes'?: boolean;
  /** Names a further weight of the prop, by its id. */
  'x-weights'?: boolean;
  /** What an item of a list is called, and what is said where there is none. */
  'x-noun'?: string;
  /** The list is a weight of its own, drawn in the picture while one is at it. */
  'x-weight'?: boolean;
  'x-empty'?: string;
  summary?: string;
  /** Values that belong together, each with a name and where they come from. */
  'x-presets'?: { name: string; source: string; values: Record<string, number> }[];
  traits?: Record<string, unknown>;
}

interface Root extends FieldSchema {
  $defs: Record<string, FieldSchema>;
  'x-choices': Record<string, string>;
}
const root = schemaJson as unknown as Root;

function resolve(field: FieldSchema): FieldSchema {
  if (!field.$ref) return field;
  const target = field.$ref
    .split('/')
    .slice(1)
    .reduce<unknown>((at, key) => (at as Values | undefined)?.[key], root);
  if (!target) return field;
  // What is said beside a reference outweighs what it refers to.
  return { ...resolve(target as FieldSchema), ...field, $ref: undefined };
}

export function fieldAt(path: Path): FieldSchema {
  return path.reduce<FieldSchema>((field, key) => {
    const next = field.properties?.[key] ?? field.items;
    if (!next) throw new Error(`No field ${path.join('/')}`);
    return resolve(next);
  }, root);
}

/** The choices of a setting of keys, of the whole ("keys") or of each ("key"), with their words. */
export function keyChoices(of: 'keys' | 'key', name: string): [string, string][] {
  const field = resolve(root.$defs[of] as FieldSchema).properties?.[name];
  return (field?.enum ?? []).map((value) => [value, field?.['x-labels']?.[value] ?? value]);
}

/** The value of a part of the document with every default filled in, as the server would: of kinds only the chosen one. */
export function standard(path: Path): unknown {
  const field = fieldAt(path);
  if (field.type !== 'object' || !field.properties) return field.default;
  const kinds = field['x-kinds'];
  const others = kinds ? kindsOf(kinds.registry).filter((kind) => kind !== kinds.default) : [];
  return Object.fromEntries(
    Object.keys(field.properties)
      .filter((name) => !others.includes(name))
      .map((name) => [name, standard([...path, name])] as const)
      .filter(([, value]) => value !== undefined),
  );
}

/** Names of the kinds that an object does not choose: what was set of them is only kept. */
export function idleKinds(path: Path, value: object): string[] {
  const kinds = fieldAt(path)['x-kinds'];
  return kinds ? kindsOf(kinds.registry).filter((kind) => kind !== (value as Values)[kinds.as]) : [];
}

export function kindsOf(registry: string): string[] {
  return Object.keys(root.$defs)
    .filter((name) => name.startsWith(`${registry}.`))
    .map((name) => name.slice(registry.length + 1));
}

/** What a kind's schema file says of a trait; false: it has none. One may hang on the kind's settings. */
export function traitOf(registry: string, kind: string, trait: string, settings: Values): unknown {
  const value = root.$defs[`${registry}.${kind}`]?.traits?.[trait] ?? false;
  return typeof value === 'object' && value !== null && !Array.isArray(value)
    ? holds(value as Condition, settings, settings)
    : value;
}

/** What a registry says of one of its kinds. */
export function kindSchema(registry: string, kind: string): FieldSchema {
  return root.$defs[`${registry}.${kind}`] as FieldSchema;
}

/** One of several kinds of a thing, with the settings of that kind. */
export interface Chosen {
  registry: string;
  kind: string;
  title: string;
  settings: Values;
  /** The schema of its settings. */
  fields: Record<string, FieldSchema>;
  summary: string;
  has: (trait: string) => boolean;
  trait: (trait: string) => unknown;
}

/** The kind that a field of an object names. */
export function chosen(owner: object | undefined, as: string): Chosen {
  const values = (owner ?? {}) as Values;
  const registry = root['x-choices'][as] ?? '';
  const kind = text(values[as]);
  const schema = root.$defs[`${registry}.${kind}`];
  const settings = (values[kind] ?? {}) as Values;
  const trait = (name: string) => traitOf(registry, kind, name, settings);
  return {
    registry,
    kind,
    title: schema?.title ?? kind,
    settings,
    fields: Object.fromEntries(
      Object.entries(schema?.properties ?? {}).map(([name, field]) => [name, resolve(field)]),
    ),
    summary: schema?.summary ?? kind,
    has: (name) => trait(name) !== false,
    trait,
  };
}

function ownerOf(path: string, beside: Values, top: Values): Values {
  return path.startsWith('/')
    ? path
        .split('/')
        .slice(1, -1)
        .reduce<Values>((at, key) => (at[key] ?? {}) as Values, top)
    : beside;
}

const last = (path: string) => path.slice(path.lastIndexOf('/') + 1);

/** Whether a condition holds. The server's Conditions says the same; a test compares them. */
export function holds(condition: Condition, beside: Values, top: Values): boolean {
  if (Array.isArray(condition)) return condition.every((part) => holds(part, beside, top));
  if ('any' in condition) return condition.any.some((part) => holds(part, beside, top));
  if ('choice' in condition)
    return chosen(ownerOf(condition.choice, beside, top), last(condition.choice)).has(condition.trait);
  const value = ownerOf(condition.field, beside, top)[last(condition.field)];
  if ('is' in condition) return condition.is.includes(value);
  if ('some' in condition) return (Array.isArray(value) || typeof value === 'string') && value.length > 0;
  if ('below' in condition) return Number(value) < condition.below;
  if ('fewer' in condition) return !Array.isArray(value) || value.length < condition.fewer;
  return Number(value) > condition.above;
}
