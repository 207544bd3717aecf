// After `npm install`: names in the lock file the packages of other platforms that the registry did not hand out (yet).
// npm leaves such optional packages out of the lock, and `npm ci` then refuses it. They are never fetched on this platform.
// Run it by hand: node scripts/complete-lock.mjs
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './paths.mjs';

const SYSTEMS = ['android', 'darwin', 'freebsd', 'linux', 'openharmony', 'win32', 'aix', 'netbsd', 'openbsd', 'sunos'];
const PROCESSORS = ['arm64', 'x64', 'ia32', 'ppc64', 'riscv64', 's390x', 'loong64', 'mips64el', 'wasm32', 'arm'];

const file = path.join(root, 'package-lock.json');
const lock = JSON.parse(readFileSync(file, 'utf8'));
const packages = lock.packages;

/** Where Node would find a package from the folder of another: the nearest folder upwards that has it. */
function resolve(folder, name) {
  for (let at = folder; ; at = at.slice(0, Math.max(0, at.lastIndexOf('node_modules/') - 1))) {
    const place = `${at === '' ? '' : `${at}/`}node_modules/${name}`;
    if (packages[place] || at === '') return packages[place] ? place : null;
  }
}

let added = 0;
for (const [folder, { optionalDependencies = {}, dev }] of Object.entries({ ...packages })) {
  for (const [name, version] of Object.entries(optionalDependencies)) {
    const found = resolve(folder, name);
    const isExact = /^\d/.test(version);
    if (found && (!isExact || packages[found].version === version)) continue;
    const words = name.split(/[-/]/);
    const system = SYSTEMS.find((word) => words.includes(word));
    const processor = PROCESSORS.find((word) => words.includes(word));
    packages[`${found ? `${folder}/` : ''}node_modules/${name}`] = {
      version: version.replace(/^\D*/, ''),
      ...(processor ? { cpu: [processor] } : {}),
      ...(dev ? { dev } : {}),
      optional: true,
      ...(system ? { os: [system] } : {}),
    };
    added += 1;
  }
}
/** What the registry says that a package is, for those that were never fetched here; '' where it does not know it. */
function integrityOf(name, version) {
  try {
    const said = execFileSync('npm', ['view', `${name}@${version}`, 'dist.integrity', '--json'], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    return String(JSON.parse(said) ?? '');
  } catch {
    return '';
  }
}

let unknown = 0;
for (const [folder, entry] of Object.entries(packages)) {
  if (folder === '' || entry.link || entry.integrity) continue;
  const integrity = integrityOf(folder.split('node_modules/').at(-1), entry.version);
  if (integrity === '') unknown += 1;
  else entry.integrity = integrity;
}

lock.packages = Object.fromEntries(Object.entries(packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} packages of other platforms named; of ${unknown} the registry does not say what they are`);
