import { describe, expect, it } from 'vitest';
import { plainField, type SourceField } from '../values/index.ts';
import { languageFor, questionsOf, shownItems } from './index.ts';

const fields: SourceField[] = [
  plainField('a', 'text'),
  { ...plainField('h', 'text'), widget: 'hidden' },
  plainField('b', 'text'),
];
const ids = (items: Parameters<typeof shownItems>[0]['items']) => shownItems({ items, fields }).map(({ id }) => id);

describe('what stands on a form', () => {
  it('is the questions at first, without what is hidden', () =>
    expect(questionsOf(fields)).toEqual([
      { kind: 'question', id: 'a', shownIf: null },
      { kind: 'question', id: 'b', shownIf: null },
    ]));
  it('is in the order of its items, each question once, and none is lost', () => {
    expect(
      ids([
        { kind: 'question', id: 'b', shownIf: null },
        { kind: 'divider', id: 'd', shownIf: null },
      ]),
    ).toEqual(['b', 'd', 'a']);
    expect(
      ids([
        { kind: 'question', id: 'b', shownIf: null },
        { kind: 'question', id: 'b', shownIf: null },
      ]),
    ).toEqual(['b', 'a']);
    expect(ids([{ kind: 'question', id: 'gone', shownIf: null }])).toEqual(['a', 'b']);
  });
});

describe('the language of a visitor', () => {
  // RFC 9110, 12.5.4: by weight; without one it is 1.
  it.each([
    ['de-AT,de;q=0.9,en;q=0.8', 'de'],
    ['ja,fr;q=0.4,sv;q=0.7', 'sv'],
    ['pt-BR', 'pt'],
    ['en;q=0.2, PL', 'pl'],
    ['de;q=0, it', 'it'],
    ['ja', 'en'],
    ['*', 'en'],
    ['', 'en'],
    ['deu', 'en'],
  ])('asked for as %j is %s', (header, language) => expect(languageFor(header)).toBe(language));
});
