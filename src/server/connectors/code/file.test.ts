import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { parse } from 'csv-parse/sync';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { dropRow } from './file.ts';
import type { CodeParts } from './parts.ts';

let folder = '';
beforeEach(() => (folder = mkdtempSync(path.join(tmpdir(), 'iwashi-drop-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const drop = (data: Record<string, unknown>, key: string) =>
  dropRow(
    {
      access: { baseUrl: 'people.csv', credentials: {} },
      dropFolder: folder,
      record: [],
      now: () => 0,
    } as unknown as CodeParts,
    data,
    key,
  );
const rows = (): Record<string, string>[] =>
  parse(readFileSync(path.join(folder, 'people.csv'), 'utf8'), { columns: true });

it('is one file, whatever each person has a value for', async () => {
  await drop({ Email: 'a@hill.example' }, 'd1');
  await drop({ Email: 'b@hill.example', Name: 'Ada, "B"', Town: 'Pellam\nRidge' }, 'd2');
  await drop({ Town: 'Hill' }, 'd3');
  await drop({ Town: 'Hill' }, 'd3');
  expect(readdirSync(folder)).toEqual(['people.csv']);
  expect(rows()).toEqual([
    { Email: 'a@hill.example', Name: '', Town: '', delivery: 'd1' },
    { Email: 'b@hill.example', Name: 'Ada, "B"', Town: 'Pellam\nRidge', delivery: 'd2' },
    { Email: '', Name: '', Town: 'Hill', delivery: 'd3' },
  ]);
});

it('loses no row where many are dropped at once, each with a column of its own', async () => {
  await Promise.all(
    Array.from({ length: 24 }, (_, at) => drop({ Email: `p${at}@hill.example`, [`C${at % 6}`]: at }, `d-${at}-`)),
  );
  expect(new Set(rows().map(({ Email }) => Email)).size).toBe(24);
  expect(rows().every((row) => Object.values(row).filter((value) => value !== '').length === 3)).toBe(true);
});

it('leaves a file alone that is not of its making', async () => {
  writeFileSync(path.join(folder, 'people.csv'), 'mine,yours\n1,2\n');
  await drop({ Email: 'a@hill.example' }, 'd1');
  expect(readFileSync(path.join(folder, 'people.csv'), 'utf8')).toBe('mine,yours\n1,2\n');
  expect(readdirSync(folder)).toContain('people-2.csv');
});
