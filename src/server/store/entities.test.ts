import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, it } from 'vitest';

const ROOT = path.join(import.meta.dirname, '../../..');

it('docs/entities.md is what the schema is (node scripts/entities.mjs writes it)', () => {
  const script = `import('./scripts/entities.mjs').then(({ entities }) => process.stdout.write(entities()))`;
  const now = execFileSync(process.execPath, ['-e', script], { cwd: ROOT, encoding: 'utf8' });
  expect(readFileSync(path.join(ROOT, 'docs/entities.md'), 'utf8')).toBe(now);
});
