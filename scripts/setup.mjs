// Prepares the machine for a verb: Debian packages, npm packages, the build. Quick when nothing is missing.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ExpectedError, dist, root } from './paths.mjs';
import { runToEnd } from './processes.mjs';

const DEBIAN = {
  mariadb: { package: 'mariadb-server', binaries: ['/usr/sbin/mariadbd', '/usr/bin/my_print_defaults'] },
  chromium: { package: 'chromium', binaries: ['/usr/bin/chromium'] },
  libreoffice: {
    package: 'libreoffice-calc-nogui',
    binaries: ['/usr/bin/soffice', '/usr/lib/libreoffice/program/libsclo.so'],
  },
  unicode: { package: 'unicode-data', binaries: ['/usr/share/unicode/NormalizationTest.txt.bz2'] },
};

/** @param needs any of: mariadb, chromium, unicode, database (mariadb unless DATABASE_URL is set), modules, build */
export async function setUp(needs) {
  const wanted = [...new Set(needs)].map((need) =>
    need === 'database' ? (process.env.DATABASE_URL ? null : 'mariadb') : need,
  );
  installDebianPackages(wanted.filter((need) => need in DEBIAN).map((need) => DEBIAN[need]));
  if (wanted.includes('modules')) await installModules();
  if (wanted.includes('build')) await buildWhenStale();
}

function installDebianPackages(packages) {
  const missing = packages.filter((entry) => !entry.binaries.every(existsSync)).map((entry) => entry.package);
  if (missing.length === 0) return;
  const install = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  const isRoot = process.getuid?.() === 0;
  const maySudo = !isRoot && spawnSync('sudo', ['-n', 'true']).status === 0;
  if (!isRoot && !maySudo) {
    throw new ExpectedError(
      `missing on this machine: ${missing.join(', ')}. Run this, then try again:\n\n  sudo apt-get update && sudo ${install}\n`,
    );
  }
  console.log(`Installing Debian packages: ${missing.join(', ')}`);
  const sudo = isRoot ? [] : ['sudo'];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const shell = (line) => {
    const [command, ...args] = [...sudo, 'sh', '-c', line];
    execFileSync(command, args, { stdio: ['ignore', 'ignore', 'inherit'], env });
  };
  // Debian starts a system-wide database when the package is installed. We run our own, so we ask it not to
  // (Debian Policy 9.11.1, policy-rc.d), unless the machine already has a policy.
  const policy = '/usr/sbin/policy-rc.d';
  const ownPolicy = !existsSync(policy);
  if (ownPolicy) shell(`printf '#!/bin/sh\\nexit 101\\n' > ${policy} && chmod 755 ${policy}`);
  try {
    shell('apt-get update -qq');
    shell(`${install} -qq`);
  } finally {
    if (ownPolicy) shell(`rm -f ${policy}`);
  }
}

async function installModules() {
  const installed = path.join(root, 'node_modules/.package-lock.json');
  const lock = path.join(root, 'package-lock.json');
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync(lock).mtimeMs) return;
  console.log('Installing npm packages');
  await runToEnd('npm', ['ci', '--no-progress', '--loglevel=error'], { cwd: root });
}

async function buildWhenStale() {
  const stamp = path.join(dist, '.built');
  if (existsSync(stamp) && newestChange() <= statSync(stamp).mtimeMs) return;
  console.log('Building');
  rmSync(stamp, { force: true });
  const started = new Date();
  await runToEnd(process.execPath, [path.join(root, 'scripts/build.mjs')], { cwd: root });
  writeFileSync(stamp, started.toISOString());
}

function newestChange() {
  const files = ['package-lock.json', 'vite.config.ts', 'index.html', 'scripts/build.mjs', 'tsconfig.json'].map(
    (name) => path.join(root, name),
  );
  const folders = readdirSync(path.join(root, 'src'), { recursive: true, withFileTypes: true })
    .filter((entry) => !entry.name.includes('.test.'))
    .map((entry) => path.join(entry.parentPath, entry.name));
  return Math.max(...[...files, ...folders].filter(existsSync).map((file) => statSync(file).mtimeMs));
}
