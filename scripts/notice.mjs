// Writes NOTICE: the packages that ship with the application, with their licences as they come with them. Run it after `npm install`.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './paths.mjs';

const LICENCE_FILE = /^(licen[cs]e|copying|notice|ofl)([.-].*)?$/i;

/** Needed only while building, but what they write is in our style sheet. */
const IN_THE_STYLE_SHEET = ['daisyui', 'tailwindcss'].map((name) => `node_modules/${name}`);

/** Folders of packages: those that run, not those that only build or test, nor those of one platform (under the licence of their own package). */
function shippedPackages() {
  const { packages } = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8'));
  const runs = ([place, { dev, optional, peer, devOptional }]) =>
    place !== '' && !dev && !optional && !peer && !devOptional;
  return Object.entries(packages)
    .filter((entry) => runs(entry) || IN_THE_STYLE_SHEET.includes(entry[0]))
    .map(([place]) => path.join(root, place))
    .filter((folder) => existsSync(path.join(folder, 'package.json')));
}

/** A package with its licence. @returns text '' where no file of it says more than its name */
function licenceOf(folder) {
  const { name, version, license, author } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
  const text = readdirSync(folder)
    .filter((file) => LICENCE_FILE.test(file))
    .sort()
    .map((file) => readFileSync(path.join(folder, file), 'utf8').replaceAll('\r\n', '\n').trim())
    .join('\n\n');
  const by = typeof author === 'string' ? author : (author?.name ?? '');
  return { name, version, licence: license ?? 'see below', by, text };
}

/** The whole text of NOTICE. */
export function notice() {
  const all = shippedPackages()
    .map(licenceOf)
    .sort((one, other) => (`${one.name} ${one.version}` < `${other.name} ${other.version}` ? -1 : 1));
  const licences = new Map();
  for (const { name, version, text, by } of all) {
    const key =
      text === '' ? `${by === '' ? 'Its authors' : by}. No licence file comes with it: see its name above.` : text;
    licences.set(key, [...(licences.get(key) ?? []), `${name} ${version}`]);
  }
  return [
    'Iwashi ships with the packages below. Written by scripts/notice.mjs; do not edit.',
    '',
    ...new Set(all.map(({ name, version, licence }) => `${name} ${version}: ${licence}`)),
    '',
    ...[...licences].flatMap(([text, names]) => ['='.repeat(80), [...new Set(names)].join(', '), '', text, '']),
  ].join('\n');
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) writeFileSync(path.join(root, 'NOTICE'), notice());
