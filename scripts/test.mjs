// Runs the parts of the test suite that are named, or all, and closes with one line that adds them up.
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { check } from './check.mjs';
import { startDatabase } from './database.mjs';
import { ExpectedError, root } from './paths.mjs';
import { onStop, runAside, stopAll } from './processes.mjs';
import { setUp } from './setup.mjs';

/**
 * The parts. Two lanes run side by side: in one, programs that are waited for; in the other, at a lower priority, what only computes and
 * takes what the first leaves of the processors.
 */
const PARTS = {
  check: { needs: [], lane: 'computing' },
  unit: { needs: [], lane: 'computing' },
  outside: { needs: ['unicode', 'libreoffice'], lane: 'computing' },
  system: { needs: ['mariadb', 'build'], database: true, lane: 'programs' },
  hostile: { needs: ['mariadb', 'build'], database: true, lane: 'programs' },
  chaos: { needs: ['mariadb', 'build'], database: true, lane: 'programs' },
  soak: { needs: ['mariadb', 'build'], lane: 'programs' },
  browser: { needs: ['mariadb', 'chromium', 'build'], database: true, lane: 'programs' },
};
const LANES = ['programs', 'computing'];

/** How long everything goes wrong at once, among all tests. */
const SHORT_SOAK = { minutes: '2', seed: '72' };

export async function run(args) {
  const { values, positionals } = parseArgs({
    args,
    options: { minutes: { type: 'string' }, seed: { type: 'string' }, busy: { type: 'boolean' } },
    allowPositionals: true,
  });
  const unknown = positionals.filter((name) => !(name in PARTS));
  if (unknown.length > 0)
    throw new ExpectedError(`there is no part "${unknown.join('", "')}". Parts: ${Object.keys(PARTS).join(', ')}`);
  const isAll = positionals.length === 0;
  const names = Object.keys(PARTS).filter((name) => isAll || positionals.includes(name));
  await setUp(names.flatMap((name) => PARTS[name].needs));

  const scratch = mkdtempSync('/tmp/iwashi-test-');
  onStop(async () => rmSync(scratch, { recursive: true, force: true }));
  const env = { ...process.env, IWASHI_ROOT: root };
  // Among all the others it is short, and the same troubles come in the same order.
  const minutes = values.minutes ?? (isAll ? SHORT_SOAK.minutes : null);
  const seed = values.seed ?? (isAll ? SHORT_SOAK.seed : null);
  if (minutes) env.SOAK_MINUTES = minutes;
  // By name it is gone through again and again for so long; among all the others once.
  if (values.minutes) env.HOSTILE_MINUTES = values.minutes;
  if (seed) env.SOAK_SEED = seed;
  if (values.busy) env.SOAK_BUSY = '1';
  if (names.some((name) => PARTS[name].database)) {
    const folder = path.join(root, 'var/test');
    mkdirSync(folder, { recursive: true });
    env.IWASHI_TEST_DATABASE = (await startDatabase(folder, { forTests: true })).url;
  }

  const total = { passed: 0, failed: 0 };
  const runLane = async (lane) => {
    for (const name of names.filter((one) => PARTS[one].lane === lane)) {
      const started = Date.now();
      console.log(`test ${name}: began`);
      const result =
        name === 'check'
          ? await check()
          : await runTests(name, path.join(scratch, `${name}.json`), { env, alone: names.length === 1 });
      const seconds = ((Date.now() - started) / 1000).toFixed(0);
      console.log(`test ${name}: ${result.passed} passed, ${result.failed} failed (${seconds} s)`);
      if (result.slowest) console.log(`test ${name}: longest ${result.slowest}`);
      total.passed += result.passed;
      total.failed += result.failed;
    }
  };
  await Promise.all(LANES.map(runLane));
  await stopAll();
  console.log(`${total.passed} passed, ${total.failed} failed`);
  process.exit(total.failed > 0 ? 1 : 0);
}

/** Runs one part. What it prints is shown when it has ended, as another part runs beside it; alone, as it comes. */
async function runTests(name, report, { alone, env }) {
  const vitest = path.join(root, 'node_modules/vitest/vitest.mjs');
  const { code, output } = await runAside(
    process.execPath,
    [vitest, 'run', '--project', name, '--reporter=dot', '--reporter=json', `--outputFile.json=${report}`],
    { cwd: root, env, shown: alone, stepsBack: PARTS[name].lane === 'computing' },
  );
  process.stdout.write(output);
  const { numPassedTests = 0, numFailedTests = 0, numTotalTests = 0, testResults = [] } = readReport(report);
  // A file that could not even be loaded, or a run without a test, is a failure too.
  const failed = numFailedTests === 0 && (code !== 0 || numTotalTests === 0) ? 1 : numFailedTests;
  return { passed: numPassedTests, failed, slowest: slowestOf(testResults) };
}

/** So many files are named that took longest. */
const NAMED = 6;

/** @param files of the report: each with its path and when it began and ended, in milliseconds */
const slowestOf = (files) =>
  files
    .map(({ name, startTime, endTime }) => ({ name: path.basename(name), seconds: (endTime - startTime) / 1000 }))
    .sort((one, other) => other.seconds - one.seconds)
    .slice(0, NAMED)
    .map(({ name, seconds }) => `${name} ${seconds.toFixed(0)} s`)
    .join(', ');

function readReport(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return {};
  }
}
