import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fieldsUsed, suggestLines, type DestinationField } from '../../../core/mapping/index.ts';
import { plainField, TYPE_NAMES, type SourceField, type TypeName } from '../../../core/values/index.ts';

/** Fields of a source and of a destination as practitioners would have them, and which belongs to which. */
export interface FieldSet {
  /** Such as `de 3`: its language, and where it stands among those. */
  name: string;
  /** Every third one is not looked at while suggestions are tuned. */
  heldOut: boolean;
  source: SourceField[];
  there: DestinationField[];
  /** By the key of the field there: the keys of the source's fields that fill it, sorted. Nothing where none does. */
  right: Map<string, string>;
}

const HELD_OUT = 3;
/** Beside this file, or, where it was built into another one, where it was. */
const FOLDER = existsSync(join(import.meta.dirname, 'en.txt'))
  ? import.meta.dirname
  : join(process.env.IWASHI_ROOT ?? '', 'src/server/bench/fieldSets');

/** Reads all field sets; how they are written stands in README.md beside them. */
export function fieldSets(): FieldSet[] {
  return readdirSync(FOLDER)
    .filter((name) => name.endsWith('.txt'))
    .sort()
    .flatMap((name) =>
      readFileSync(join(FOLDER, name), 'utf8')
        .split(/^## .*$/m)
        .slice(1)
        .map((text, index) => read(text, name.replace('.txt', ''), index + 1)),
    );
}

function read(text: string, language: string, number: number): FieldSet {
  const lines = text.split('\n').filter((line) => line.trim() !== '');
  const right = new Map<string, string>();
  const source = lines.filter((line) => line.startsWith('- ')).map((line) => fieldIn(line.slice(2)));
  const there = lines
    .filter((line) => line.startsWith('+ '))
    .map((line): DestinationField => {
      const [told = '', answer] = line.slice(2).split('<-');
      const { key, label, type, required, options } = fieldIn(told);
      if (answer !== undefined) right.set(key, answer.trim().split('+').sort().join('+'));
      return { key, label, type, required, choices: options, maxLength: null };
    });
  return { name: `${language} ${number}`, heldOut: number % HELD_OUT === 0, source, there, right };
}

function fieldIn(told: string): SourceField {
  const [label = '', key = '', typed = ''] = told.split('|').map((one) => one.trim());
  const [, type = '', options = '', required = ''] = /^([^(!]+)(?:\((.*)\))?(!?)$/.exec(typed) ?? [];
  if (!TYPE_NAMES.includes(type as TypeName)) throw new Error(`"${told}" has no type`);
  return {
    ...plainField(key, type as TypeName),
    label,
    required: required === '!',
    options: options === '' ? [] : options.split(';'),
  };
}

/** How suggestions stand against what is right. */
export interface SetScore {
  /** Of what is filled in by itself, the share that is right. */
  precision: number;
  /** Of what is right, the share that is filled in by itself. */
  recall: number;
  /** Of what is right, the share that is filled in or offered. */
  offered: number;
  lines: number;
  /** What was filled in and is wrong, and what is right and was not filled in: set, field there, what came, what is right. */
  wrong: string[];
  missed: string[];
}

/** Suggests lines for each set and counts. */
export function scoreSets(sets: FieldSet[]): SetScore {
  let applied = 0;
  let hits = 0;
  let found = 0;
  let lines = 0;
  const wrong: string[] = [];
  const missed: string[] = [];
  for (const { name, source, there, right } of sets) {
    const suggested = new Map(suggestLines(source, there, []).map((one) => [one.line.to, one]));
    lines += right.size;
    for (const { key, label } of there) {
      const one = suggested.get(key);
      const came = one ? [...new Set(fieldsUsed(one.line))].sort().join('+') : '';
      const isRight = came !== '' && came === right.get(key);
      const told = `${name}, “${label}”: ${came || 'nothing'}${one ? ` (${one.confidence.toFixed(2)})` : ''}, right is ${right.get(key) ?? 'nothing'}`;
      if (isRight) found += 1;
      if (one?.applies) {
        applied += 1;
        if (isRight) hits += 1;
        else wrong.push(told);
      }
      if (right.has(key) && !(isRight && one?.applies)) missed.push(told);
    }
  }
  return {
    precision: applied === 0 ? 1 : hits / applied,
    recall: hits / lines,
    offered: found / lines,
    lines,
    wrong,
    missed,
  };
}
