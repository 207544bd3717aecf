// Types, lint, format, import boundaries and dead code. Needs no database.
import path from 'node:path';
import { root } from './paths.mjs';
import { runAside } from './processes.mjs';

const PARTS = {
  types: ['tsc', '-p', '.'],
  lint: ['eslint', '.', '--max-warnings', '0'],
  format: ['prettier', '--check', '--log-level', 'warn', '.'],
  boundaries: ['depcruise', 'src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err'],
  'dead code': ['knip'],
};

/** Runs every part and tells how each went. */
export async function check() {
  let passed = 0;
  let failed = 0;
  for (const [name, [command, ...args]] of Object.entries(PARTS)) {
    const started = Date.now();
    const tool = path.join(root, 'node_modules/.bin', command);
    const { code, output } = await runAside(tool, args, { cwd: root, stepsBack: true });
    if (code === 0) passed += 1;
    else failed += 1;
    console.log(`check ${name}: ${code === 0 ? 'passed' : 'FAILED'} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
    if (code !== 0) console.log(output);
  }
  return { passed, failed };
}

export async function run() {
  const { passed, failed } = await check();
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0) process.exitCode = 1;
}
