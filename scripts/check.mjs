// Types, lint, format, import boundaries, dead code, words and licences. Needs no database.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { notice } from './notice.mjs';
import { root } from './paths.mjs';
import { runAside } from './processes.mjs';
import { avoidedHere } from './words.mjs';

const PARTS = {
  types: ['tsc', '-p', '.'],
  lint: ['eslint', '.', '--max-warnings', '0'],
  format: ['prettier', '--check', '--log-level', 'warn', '.'],
  boundaries: ['depcruise', 'src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'],
  'dead code': ['knip'],
};

/** Parts of our own. Each gives what is wrong, a line each. */
const OWN_PARTS = {
  words: avoidedHere,
  licences: () =>
    readFileSync(path.join(root, 'NOTICE'), 'utf8') === notice()
      ? []
      : ['NOTICE is not what the packages say: run node scripts/notice.mjs'],
};

async function outcomeOf(name) {
  if (name in OWN_PARTS) {
    const wrong = OWN_PARTS[name]();
    return { isWell: wrong.length === 0, output: wrong.join('\n') };
  }
  const [command, ...args] = PARTS[name];
  const tool = path.join(root, 'node_modules/.bin', command);
  const { code, output } = await runAside(tool, args, { cwd: root, stepsBack: true });
  return { isWell: code === 0, output };
}

/** Runs every part and tells how each went. */
export async function check() {
  let passed = 0;
  let failed = 0;
  for (const name of [...Object.keys(PARTS), ...Object.keys(OWN_PARTS)]) {
    const started = Date.now();
    const { isWell, output } = await outcomeOf(name);
    if (isWell) passed += 1;
    else failed += 1;
    console.log(`check ${name}: ${isWell ? 'passed' : 'FAILED'} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
    if (!isWell) console.log(output);
  }
  return { passed, failed };
}

export async function run() {
  const { passed, failed } = await check();
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0) process.exitCode = 1;
}
