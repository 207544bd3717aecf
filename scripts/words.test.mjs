import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from './paths.mjs';
import { avoidedIn, avoidedWords } from './words.mjs';

const avoided = { names: ['throughBreaks', 'fated'], sentences: ['a dull phrase'] };
const found = (text, file = 'src/a.ts') => avoidedIn(file, text, avoided);

describe('words that are avoided', () => {
  it('are read from the tables of the vocabulary', () => {
    const { names, sentences } = avoidedWords(readFileSync(path.join(root, 'docs/vocabulary.md'), 'utf8'));
    expect(names).toContain('throughBreaks');
    expect(sentences.length).toBeGreaterThan(5);
    expect([...names, ...sentences]).not.toContain('Avoid');
    expect(avoidedWords('### Names to avoid\n\n| `one` | two |\n\n### Texts to avoid\n\n| `a b` | c |\n')).toEqual({
      names: ['one'],
      sentences: ['a b'],
    });
  });

  it('are found in names, however these are written, with their line', () => {
    expect(found('const a = 1;\nexport const useThroughBreaks = a;')).toEqual([
      'src/a.ts:2: "useThroughBreaks" has "throughBreaks" in it',
    ]);
    expect(found('const THROUGH_BREAKS_MS = 1;')).toHaveLength(1);
    expect(found('x.fated;', 'src/throughBreaks.ts')).toEqual([
      'src/throughBreaks.ts: a file named "throughBreaks"',
      'src/throughBreaks.ts:1: "fated" has "fated" in it',
    ]);
  });

  it('and in texts for people', () => {
    expect(found("const label = 'a dull phrase';")).toHaveLength(1);
    expect(found('const a = <p>\n  A dull\n  phrase of ours</p>;', 'src/a.tsx')).toHaveLength(1);
    expect(found('const a = `Its a dull phrase ${1}`;')).toHaveLength(1);
  });

  it('but not in longer words, other words, or comments', () => {
    expect(
      found('// throughBreaks\nconst breakThrough = "through breaks"; const breaks = 1; const isInfated = 2;'),
    ).toEqual([]);
  });
});
