// Builds the interface (Vite), the Node programs and the script for pages of others (Rolldown) into dist/.
import { readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { build as bundle } from 'rolldown';
import { build as buildWeb } from 'vite';
import { dist, root } from './paths.mjs';

const PROGRAMS = {
  'server/main': 'src/server/main.ts',
  'server/reading': 'src/server/reading/main.ts',
  'server/reading-thread': 'src/server/reading/thread.ts',
  'server/demo': 'src/server/demo/main.ts',
  'server/seed': 'src/server/seed/main.ts',
  'server/explain': 'src/server/explain/main.ts',
  'server/bench': 'src/server/bench/main.ts',
  'server/bench-table': 'src/server/bench/tableThread.ts',
  'server/bench-reference': 'src/server/bench/reference.ts',
  'standins/tern-post': 'src/standins/tern-post/main.ts',
  'standins/capstan': 'src/standins/capstan/main.ts',
  'standins/rowbarn': 'src/standins/rowbarn/main.ts',
  'standins/fennel-fox': 'src/standins/fennel-fox/main.ts',
  'standins/bellbuoy': 'src/standins/bellbuoy/main.ts',
  'standins/letterloft': 'src/standins/letterloft/main.ts',
  'standins/site': 'src/standins/site/main.ts',
};

const { dependencies } = JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8'));
const isPackage = (id) =>
  id.startsWith('node:') || Object.keys(dependencies).some((name) => id === name || id.startsWith(`${name}/`));

/** How the Node programs are built. */
export const programs = {
  input: Object.fromEntries(Object.entries(PROGRAMS).map(([name, file]) => [name, path.join(root, file)])),
  // Benches that look at pages ask for the browser of the tests.
  external: (id) => isPackage(id) || id === 'playwright-core',
  platform: 'node',
  tsconfig: path.join(root, 'tsconfig.json'),
  output: {
    dir: dist,
    format: 'esm',
    sourcemap: true,
    entryFileNames: '[name].js',
    chunkFileNames: 'shared/[name]-[hash].js',
  },
  logLevel: 'warn',
};

/** How the scripts that visitors' browsers run are built, for pages of others and for our own: small files without imports. */
export const embeds = Object.entries({ script: 'main', own: 'own', chat: 'chat' }).map(([name, file]) => ({
  input: path.join(root, `src/embed/${file}.ts`),
  platform: 'browser',
  tsconfig: path.join(root, 'tsconfig.json'),
  output: { file: path.join(dist, `embed/${name}.js`), format: 'iife', minify: true },
  logLevel: 'warn',
}));

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  rmSync(dist, { recursive: true, force: true });
  await Promise.all([buildWeb({ root, logLevel: 'warn' }), bundle(programs), ...embeds.map((one) => bundle(one))]);
}
