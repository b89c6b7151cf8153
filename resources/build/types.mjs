// The document's TypeScript types and its reference page, both from the schema.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { compile } from 'json-schema-to-typescript';

const schema = JSON.parse(readFileSync('core/schema/shot.schema.json', 'utf8'));
// Titles of single fields would become type names; the shapes say more.
const plain = (s) => {
  if (Array.isArray(s)) return s.map(plain);
  if (typeof s !== 'object' || s === null) return s;
  const copy = Object.fromEntries(Object.entries(s).filter(([k, v]) => !(k === 'title' && typeof v === 'string') && !(k === 'oneOf' && s.required)).map(([k, v]) => [k, plain(v)]));
  return copy;
};
const types = await compile({ ...plain(schema), title: 'Shot' }, 'Shot', { bannerComment: '// Made from core/schema/shot.schema.json by resources/build/types.mjs. Do not edit.', additionalProperties: false });
mkdirSync('resources/ts/api', { recursive: true });
writeFileSync('resources/ts/api/document.ts', types);

const resolve = (s) => (s.$ref ? resolve(s.$ref.split('/').slice(1).reduce((at, key) => at[key], schema)) : s);
// What must hold for a field to matter, in words.
const condition = (c) =>
  Array.isArray(c) ? c.map(condition).join(' and ') : c.any ? c.any.map(condition).join(', or ') : c.above !== undefined ? `*${c.field}* is above ${c.above}` : c.fewer !== undefined ? `there are fewer than ${c.fewer} *${c.field}*` : `*${c.field}* is ${c.is.map((v) => `\`${v}\``).join(' or ')}`;
const rows = [];
const walk = (field, path) => {
  // What is defined elsewhere is described there.
  if (field.$ref?.includes('/properties/')) return;
  const s = resolve(field);
  if (s.type === 'object' && s.properties) return Object.entries(s.properties).forEach(([k, v]) => walk(v, path ? `${path}.${k}` : k));
  if (s.type === 'array' && resolve(s.items ?? {}).properties) return walk(s.items, `${path}[]`);
  const range = s['x-labels'] ? Object.keys(s['x-labels']).map((v) => `\`${v}\``).join(', ') : s.minimum !== undefined ? `${s.minimum} to ${s.maximum}${s['x-unit'] ? ` ${s['x-unit']}` : ''}` : s.type ?? '';
  const when = s['x-when'] ? ` Applies when ${condition(s['x-when'])}.` : '';
  rows.push(`| \`${path}\` | ${s.title} | ${range}${s['x-animatable'] ? ', or keys' : ''} | ${s.default === undefined ? '' : `\`${JSON.stringify(s.default)}\``} | ${(s.description ?? '') + when} |`);
};
walk(schema, '');
const keyRows = Object.entries(schema.$defs.key.properties).map(([k, s]) => `| \`${k}\` | ${s.title} | ${s['x-labels'] ? Object.keys(s['x-labels']).map((v) => `\`${v}\``).join(', ') : s.type} | ${s.description} |`);
writeFileSync('docs/reference.md', `# The shot document

${schema.description} Made from \`core/schema/shot.schema.json\`; do not edit.

| field | name | values | default | what it does |
| --- | --- | --- | --- | --- |
${rows.join('\n')}

## Keys

A number that says "or keys" can be \`{"keys": [...]}\` instead. Each key stands at a \`frame\`, or at a \`cue\` plus an \`offset\`.

| field | name | values | what it does |
| --- | --- | --- | --- |
${keyRows.join('\n')}
`);
