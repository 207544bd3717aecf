import { execFileSync } from 'node:child_process';
import { beforeAll, describe, expect, it } from 'vitest';
import { decide, type TestName } from '../../src/core/conditions/index.ts';
import { matchAnswers } from '../../src/core/mapping/index.ts';
import { plainField } from '../../src/core/values/index.ts';

/*
 * Unicode's NormalizationTest (UAX #15), version 15.0.0, out of Debian's package unicode-data: in each row five texts, of which
 * the first three are canonically equivalent, and all five compatible. People see no difference between the first three, so
 * nothing that compares texts may.
 */
const FILE = '/usr/share/unicode/NormalizationTest.txt.bz2';
let rows: string[][] = [];

beforeAll(() => {
  const unpack = 'import bz2,sys; sys.stdout.buffer.write(bz2.open(sys.argv[1]).read())';
  const text = execFileSync('python3', ['-c', unpack, FILE], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 });
  rows = text
    .split('\n')
    .filter((line) => /^[0-9A-F]/.test(line))
    .map((line) =>
      line
        .split(';')
        .slice(0, 5)
        .map((points) =>
          points
            .split(' ')
            .map((point) => String.fromCodePoint(parseInt(point, 16)))
            .join(''),
        ),
    );
});

const holds = (given: string, test: TestName, value: string) =>
  decide({ kind: 'test', id: 'c', field: 'f', test, value }, { values: { f: given }, now: 0 }, [
    plainField('f', 'text'),
  ]).verdict;

describe('comparing texts against NormalizationTest', () => {
  it('has its eighteen thousand rows', () => expect(rows.length).toBeGreaterThan(18_000));

  it('a condition holds for every way of writing the same', () => {
    const wrong = rows.filter(([source = '', composed = '', decomposed = '']) =>
      // What is blank alone is empty, and nothing is compared with it.
      [
        [source, composed],
        [composed, decomposed],
        [decomposed, source],
      ].some(([given = '', asked = '']) => given.trim() !== '' && holds(given, 'is', asked) !== 'holds'),
    );
    expect(wrong.slice(0, 5)).toEqual([]);
  });

  it('an answer is matched to what is called the same there, however it is written', () => {
    // Signs and marks alone are no words.
    const worded = rows.filter(([source = '']) => /^\p{L}/u.test(source)).filter((_, index) => index % 20 === 0);
    expect(worded.length).toBeGreaterThan(300);
    const wrong = worded.filter(
      ([source = '', , decomposed = '']) =>
        matchAnswers([source], [{ id: 'x', name: decomposed }])[0]?.confidence !== 1,
    );
    expect(wrong.slice(0, 5)).toEqual([]);
  });
});
