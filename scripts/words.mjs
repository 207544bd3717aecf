// The words that docs/vocabulary.md tells us to avoid, and where they stand all the same: names in the code, files, and texts for people.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { root } from './paths.mjs';

/**
 * Reads the two tables of avoided words.
 * @param text docs/vocabulary.md
 * @returns names: parts of identifiers and file names, such as "throughBreaks"; sentences: parts of texts for people
 */
export function avoidedWords(text) {
  const table = (heading) => {
    const rows = (text.split(`### ${heading}\n`)[1] ?? '').split('\n### ')[0].split('\n');
    return rows.flatMap((row) => /^\| `([^`]+)` \| (.+) \|$/.exec(row)?.slice(1, 2) ?? []);
  };
  return { names: table('Names to avoid'), sentences: table('Texts to avoid') };
}

/** The words of a name: "throughBreaks", "through-breaks" and "THROUGH_BREAKS" are through and breaks. */
const wordsOf = (name) =>
  name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .split(/[^A-Za-z0-9]+/)
    .filter((word) => word !== '')
    .map((word) => word.toLowerCase());

const holds = (name, avoided) => ` ${wordsOf(name).join(' ')} `.includes(` ${wordsOf(avoided).join(' ')} `);

/**
 * What is wrong with one file.
 * @param file its path from the project's folder
 * @returns a line for each: where, what, and that it is to be avoided
 */
export function avoidedIn(file, text, { names, sentences }) {
  const found = names
    .filter((name) => holds(path.basename(file), name))
    .map((name) => `${file}: a file named "${name}"`);
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const lineOf = (node) => source.getLineAndCharacterOfPosition(node.getStart(source)).line + 1;
  const visit = (node) => {
    if (ts.isIdentifier(node) || ts.isPrivateIdentifier(node))
      for (const name of names)
        if (holds(node.text, name)) found.push(`${file}:${lineOf(node)}: "${node.text}" has "${name}" in it`);
    if (isText(node))
      for (const sentence of sentences)
        if (node.text.replace(/\s+/g, ' ').toLowerCase().includes(sentence.toLowerCase()))
          found.push(`${file}:${lineOf(node)}: the text "${sentence}"`);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

const isText = (node) =>
  ts.isStringLiteralLike(node) ||
  ts.isJsxText(node) ||
  ts.isTemplateHead(node) ||
  ts.isTemplateMiddleOrTemplateTail(node);

/** Whether it is worth taking a file apart: as letters alone, one of the words is in it. */
function mayHold(file, text, { names, sentences }) {
  const lettersOf = (one) => one.replace(/[^A-Za-z0-9]+/g, '').toLowerCase();
  const letters = lettersOf(`${file}${text}`);
  return [...names, ...sentences].some((one) => letters.includes(lettersOf(one)));
}

/** Everything in the project that docs/vocabulary.md tells us to avoid. */
export function avoidedHere() {
  const avoided = avoidedWords(readFileSync(path.join(root, 'docs/vocabulary.md'), 'utf8'));
  if (avoided.names.length === 0 || avoided.sentences.length === 0)
    return ['docs/vocabulary.md: its tables of words to avoid cannot be read'];
  const listed = execFileSync(
    'git',
    ['ls-files', '--cached', '--others', '--exclude-standard', 'src', 'test', 'scripts'],
    {
      cwd: root,
      encoding: 'utf8',
    },
  );
  return listed
    .split('\n')
    .filter((file) => /\.(ts|tsx|mjs)$/.test(file))
    .flatMap((file) => {
      const text = readFileSync(path.join(root, file), 'utf8');
      return mayHold(file, text, avoided) ? avoidedIn(file, text, avoided) : [];
    });
}
