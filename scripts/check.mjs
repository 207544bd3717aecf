// Types, lint, format, import boundaries and dead code. Needs no database.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { root } from './paths.mjs';
import { stepBack } from './processes.mjs';

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
    const child = spawn(path.join(root, 'node_modules/.bin', command), args, {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    stepBack(child.pid);
    const output = [];
    child.stdout.on('data', (part) => output.push(part));
    child.stderr.on('data', (part) => output.push(part));
    const [code] = await once(child, 'close');
    if (code === 0) passed += 1;
    else failed += 1;
    console.log(`check ${name}: ${code === 0 ? 'passed' : 'FAILED'} (${((Date.now() - started) / 1000).toFixed(1)} s)`);
    if (code !== 0) console.log(Buffer.concat(output).toString());
  }
  return { passed, failed };
}

export async function run() {
  const { passed, failed } = await check();
  console.log(`${passed} passed, ${failed} failed`);
  if (failed > 0) process.exitCode = 1;
}
