// The command line of Iwashi: reads the verb, prepares the machine, hands over to one file per verb.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './paths.mjs';
import { setUp } from './setup.mjs';
import { stopAllOnExit } from './processes.mjs';

const HELP = `Iwashi: what visitors hand over, in the right lists of your other systems, with proof.

  ./iwashi demo [--port N] [--fresh]   everything on this machine, with invented services and data
  ./iwashi start                       production: server and workers, configured by environment
  ./iwashi serve | work                one of the two roles alone (run as many workers as you like)
  ./iwashi explain SUBMISSION          the whole story of one submission, out of the database that runs here
  ./iwashi seed --people N             many more invented people in the demo that runs: what it is like at size
  ./iwashi dev [--port N]              the demo, built and started again at every change of the code
  ./iwashi test [NAME...]              check unit outside system chaos soak browser, or only those named
  ./iwashi test soak [--minutes N] [--seed N] [--busy]   everything goes wrong at once; --busy: beside other programs that take all there is
  ./iwashi check                       types, lint, format, import boundaries, dead code, words, licences
  ./iwashi bench [--json] [NAME...]    speed as ratios: accept hook import path deliver…; chat, embed, pages, table and suggest when named
  ./iwashi help | --version            this text; which version this is (CHANGELOG.md says what is new in it)

Environment for start, serve and work: see "Run it for real" in README.md.`;

const VERBS = {
  demo: { needs: ['mariadb', 'modules', 'build'], file: './demo.mjs' },
  start: { needs: ['database', 'modules', 'build'], file: './start.mjs' },
  serve: { needs: ['database', 'modules', 'build'], file: './start.mjs' },
  work: { needs: ['database', 'modules', 'build'], file: './start.mjs' },
  explain: { needs: ['modules', 'build'], file: './explain.mjs' },
  seed: { needs: ['modules', 'build'], file: './seed.mjs' },
  dev: { needs: ['mariadb', 'modules', 'build'], file: './dev.mjs' },
  test: { needs: ['modules'], file: './test.mjs' },
  check: { needs: ['modules'], file: './check.mjs' },
  bench: { needs: ['mariadb', 'modules', 'build'], file: './bench.mjs' },
};

const [verb = 'help', ...args] = process.argv.slice(2);
if (verb === 'help' || verb === '--help' || verb === '-h') {
  console.log(HELP);
} else if (verb === '--version' || verb === '-v') {
  console.log(JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8')).version);
} else if (!(verb in VERBS)) {
  console.error(`iwashi: there is no "${verb}".\n\n${HELP}`);
  process.exitCode = 2;
} else {
  try {
    stopAllOnExit();
    await setUp(VERBS[verb].needs);
    const { run } = await import(VERBS[verb].file);
    await run(args, verb);
  } catch (error) {
    console.error(`iwashi ${verb}: ${error.expected ? error.message : error.stack}`);
    const { stopAll } = await import('./processes.mjs');
    await stopAll();
    process.exit(1);
  }
}
