// The document's TypeScript types and its reference page, both from the schema.
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { compile } from 'json-schema-to-typescript';

// Put together by the core, so that there is one way to do it.
const text = execFileSync('bin/php', ['core/bin/schema.php'], { encoding: 'utf8', maxBuffer: 1 << 26 });
const schema = JSON.parse(text);
// Titles of single fields would become type names; the shapes say more.
const plain = (s) => {
  if (Array.isArray(s)) return s.map(plain);
  if (typeof s !== 'object' || s === null) return s;
  const copy = Object.fromEntries(
    Object.entries(s)
      .filter(([k, v]) => !(k === 'title' && typeof v === 'string') && !(k === 'oneOf' && s.required))
      .map(([k, v]) => [k, plain(v)]),
  );
  return copy;
};
const types = await compile({ ...plain(schema), title: 'Shot' }, 'Shot', {
  bannerComment: '// Made from core/schema by resources/build/types.mjs. Do not edit.',
  additionalProperties: false,
});
mkdirSync('resources/ts/api', { recursive: true });
writeFileSync('resources/ts/api/document.ts', types);
writeFileSync('resources/ts/api/schema.json', text);

const resolve = ({ $ref, ...beside }) =>
  $ref
    ? {
        ...resolve(
          $ref
            .split('/')
            .slice(1)
            .reduce((at, key) => at[key], schema),
        ),
        ...beside,
      }
    : beside;
// What must hold for a field to matter, in words.
const condition = (c) =>
  Array.isArray(c)
    ? c.map(condition).join(' and ')
    : c.any
      ? c.any.map(condition).join(', or ')
      : c.above !== undefined
        ? `*${c.field}* is above ${c.above}`
        : c.below !== undefined
          ? `*${c.field}* is below ${c.below}`
          : c.choice
            ? `the *${c.choice.split('/').at(-1)}* is ${c.trait}`
            : c.fewer !== undefined
              ? `there are fewer than ${c.fewer} *${c.field}*`
              : c.some
                ? `there is a *${c.field}*`
                : `*${c.field}* is ${c.is.map((v) => `\`${v}\``).join(' or ')}`;
let rows = [];
const kinds = new Set();
const walk = (field, path) => {
  const s = resolve(field);
  if (s['x-kinds']) kinds.add(s['x-kinds'].registry);
  // Settings of kinds are described once, below.
  const own = s['x-kinds']
    ? Object.keys(schema.$defs)
        .filter((name) => name.startsWith(`${s['x-kinds'].registry}.`))
        .map((name) => name.split('.')[1])
    : [];
  if (s.type === 'object' && s.properties)
    return Object.entries(s.properties)
      .filter(([k]) => !own.includes(k))
      .forEach(([k, v]) => walk(v, path ? `${path}.${k}` : k));
  if (s.type === 'array' && resolve(s.items ?? {}).properties) return walk(s.items, `${path}[]`);
  const range = s['x-labels']
    ? Object.keys(s['x-labels'])
        .map((v) => `\`${v}\``)
        .join(', ')
    : s.minimum !== undefined
      ? `${s.minimum} to ${s.maximum}${s['x-unit'] ? ` ${s['x-unit']}` : ''}`
      : (s.type ?? '');
  const when = s['x-when'] ? ` Applies when ${condition(s['x-when'])}.` : '';
  rows.push(
    `| \`${path}\` | ${s.title} | ${range}${s['x-animatable'] ? ', or keys' : ''} | ${s.default === undefined ? '' : `\`${JSON.stringify(s.default)}\``} | ${(s.description ?? '') + when} |`,
  );
};
walk(schema, '');
const main = rows;
const HEAD = '| field | name | values | default | what it does |\n| --- | --- | --- | --- | --- |\n';
const sections = [...kinds].flatMap((registry) =>
  Object.entries(schema.$defs)
    .filter(([name]) => name.startsWith(`${registry}.`))
    .map(([name, kind]) => {
      rows = [];
      Object.entries(kind.properties ?? {}).forEach(([k, v]) => walk(v, k));
      return `### ${registry} \`${name.split('.')[1]}\`: ${kind.title}\n\n${kind.description}\n${rows.length > 0 ? `\n${HEAD}${rows.join('\n')}\n` : ''}`;
    }),
);
const keyRows = Object.entries(schema.$defs.key.properties).map(
  ([k, s]) =>
    `| \`${k}\` | ${s.title} | ${
      s['x-labels']
        ? Object.keys(s['x-labels'])
            .map((v) => `\`${v}\``)
            .join(', ')
        : s.type
    } | ${s.description} |`,
);
writeFileSync(
  'docs/reference.md',
  `# The shot document

${schema.description} Made from \`core/schema\`; do not edit. Where a field
names a kind, the settings of that kind stand in an object of its name beside the field: \`{"pattern": "web", "web": {...}}\`.
Only the kind that is named is read; settings of the others are kept for when they are chosen again.

${HEAD}${main.join('\n')}

## Kinds

${sections.join('\n')}
## Keys

A number that says "or keys" can be \`{"keys": [...]}\` instead. Each key stands at a \`frame\`, or at a \`cue\` plus an \`offset\`.

| field | name | values | what it does |
| --- | --- | --- | --- |
${keyRows.join('\n')}
`,
);
