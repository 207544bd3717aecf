// Writes docs/entities.md: the tables, their columns and what points where, out of the newest snapshot of the schema.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './paths.mjs';

const META = path.join(root, 'src/server/store/migrations/meta');

/** Columns whose table their names do not tell. */
const POINTS_TO = {
  'claims.submission_id': 'submissions',
  'contacts.merged_into': 'contacts',
  'contacts.person_id': 'contacts',
  'merges.into_id': 'contacts',
  'confirmation_tokens.confirmation_id': 'confirmations',
};

/** @returns the text of docs/entities.md */
export function entities() {
  const newest = readdirSync(META)
    .filter((name) => name.endsWith('_snapshot.json'))
    .sort()
    .at(-1);
  const { tables } = JSON.parse(readFileSync(path.join(META, newest), 'utf8'));
  const names = Object.keys(tables).sort();
  const lines = names.flatMap((name) => {
    const keys = Object.values(tables[name].compositePrimaryKeys).flatMap(({ columns }) => columns);
    const columns = Object.values(tables[name].columns).map(({ name: column, type, notNull }) => {
      const kind = type.replace(/\(.*|\s.*/g, '');
      const marks = keys.includes(column) ? ' PK' : target(name, column, names) ? ' FK' : '';
      return `    ${kind} ${column}${marks}${notNull ? '' : ' "may be null"'}`;
    });
    return [`  ${name} {`, ...columns, '  }'];
  });
  const relations = names.flatMap((name) =>
    Object.values(tables[name].columns).flatMap(({ name: column, notNull }) => {
      const to = target(name, column, names);
      return to ? [`  ${to} ${notNull ? '||' : '|o'}--o{ ${name} : ${column}`] : [];
    }),
  );
  return [
    '# Entities',
    '',
    'Every table of the database, its columns, and which point to which. Written by `node scripts/entities.mjs` out of the',
    'schema (`src/server/store/schema/`); a test fails when it is out of date. The database enforces no foreign keys: they',
    'would cost every write a look at another table.',
    '',
    '```mermaid',
    'erDiagram',
    ...relations,
    ...lines,
    '```',
    '',
  ].join('\n');
}

function target(table, column, names) {
  const own = POINTS_TO[`${table}.${column}`];
  if (own) return own;
  const word = /^(.+)_id$/.exec(column)?.[1];
  if (!word) return null;
  const plural = word.endsWith('y') ? `${word.slice(0, -1)}ies` : `${word}s`;
  return names.includes(plural) && plural !== table ? plural : null;
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href)
  writeFileSync(path.join(root, 'docs/entities.md'), entities());
