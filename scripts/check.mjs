// Types, lint, format, import boundaries, dead code, words and licences. Needs no database.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { notice } from './notice.mjs';
import { root } from './paths.mjs';
import { runAside } from './processes.mjs';
import { avoidedHere } from './words.mjs';

/** A part that is a program of a package. */
const tool =
  (command, ...args) =>
  async () => {
    const program = path.join(root, 'node_modules/.bin', command);
    const { code, output } = await runAside(program, args, { cwd: root, stepsBack: true });
    return { isWell: code === 0, output };
  };

/** A part of our own. @param wrongHere gives what is wrong, a line each */
const own = (wrongHere) => () => {
  const wrong = wrongHere();
  return { isWell: wrong.length === 0, output: wrong.join('\n') };
};

const PARTS = {
  types: tool('tsc', '-p', '.'),
  lint: tool('eslint', '.', '--max-warnings', '0'),
  format: tool('prettier', '--check', '--log-level', 'warn', '.'),
  boundaries: tool('depcruise', 'src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'),
  'dead code': tool('knip'),
  words: own(avoidedHere),
  licences: own(() =>
    readFileSync(path.join(root, 'NOTICE'), 'utf8') === notice()
      ? []
      : ['NOTICE is not what the packages say: run node scripts/notice.mjs'],
  ),
};

/** Runs every part and tells how each went. */
export async function check() {
  let passed = 0;
  let failed = 0;
  for (const [name, part] of Object.entries(PARTS)) {
    const started = Date.now();
    const { isWell, output } = await part();
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
