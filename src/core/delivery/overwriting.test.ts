import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { intentOf } from '../../../test/world/intents.ts';
import { OVERWRITE_RULES, type DestinationField, type OverwriteRule, type SentValue } from '../mapping/index.ts';
import { compareReadBack, looksFirst, overwriting, ruleFor, type HeldPerson } from './index.ts';

const rule = () => fc.constantFrom(...OVERWRITE_RULES);

describe('what goes into a field of somebody who is there', () => {
  it.each<[OverwriteRule, SentValue | null, SentValue | null | undefined, SentValue | null | undefined]>([
    ['latest', 'new', 'old', 'new'],
    ['latest', null, 'old', null],
    ['fill gaps', 'new', 'old', undefined],
    ['fill gaps', 'new', '', 'new'],
    ['fill gaps', 'new', null, 'new'],
    ['fill gaps', 'new', [], 'new'],
    ['new people', 'new', '', undefined],
    ['new people', 'new', undefined, undefined],
    ['longest', 'Mara Anne', 'Mara', 'Mara Anne'],
    ['longest', 'M', 'Mara', undefined],
    ['longest', null, 'Mara', undefined],
    ['highest', 10, '9', 10],
    ['highest', 9, 10, undefined],
    ['highest', '2026-05-31', '2026-04-01', '2026-05-31'],
    ['highest', '2026-05-31', '2026-06-01', undefined],
    ['highest', null, 3, undefined],
    ['add', ['b', 'c'], ['a', 'b'], ['a', 'b', 'c']],
    ['add', ['a'], ['a', 'b'], undefined],
    ['add', 'c', 'a, b', 'a, b, c'],
    ['add', 'c', '', 'c'],
    ['add', null, 'a', undefined],
  ])('%s: %j over %j is %j', (rule, meant, held, sent) => expect(overwriting(rule, meant, held)).toEqual(sent));

  it('goes by its own rule, or by that of the target', () => {
    const intent = intentOf('a@b.example', { duplicates: 'fill gaps', rules: { points: 'highest' } });
    expect([ruleFor(intent, 'points'), ruleFor(intent, 'given')]).toEqual(['highest', 'fill gaps']);
    expect(ruleFor(intentOf('a@b.example'), 'given')).toBe('latest');
  });

  it('is looked at first where that matters', () => {
    expect(looksFirst(intentOf('a@b.example'))).toBe(false);
    expect(looksFirst(intentOf('a@b.example', { rules: { given: 'latest' } }))).toBe(false);
    expect(looksFirst(intentOf('a@b.example', { rules: { given: 'longest' } }))).toBe(true);
    expect(looksFirst(intentOf('a@b.example', { duplicates: 'leave alone' }))).toBe(true);
  });
});

describe('what is meant again after it was applied', () => {
  const fields: DestinationField[] = ['text', 'number', 'tags'].map((key) => ({
    key,
    label: key,
    type: key === 'tags' ? 'several choices' : key === 'number' ? 'number' : 'text',
    required: false,
    choices: [],
    maxLength: null,
  }));
  const word = fc.constantFrom('', 'Mara', 'Mara Anne', 'Ada');
  const several = fc.uniqueArray(fc.constantFrom('a', 'b', 'c'));
  const values = fc.record({ text: word, number: fc.integer({ min: -5, max: 5 }), tags: several });
  const rules = fc.record({ text: rule(), number: rule(), tags: rule() });
  const held = (of: Record<string, SentValue | null>): HeldPerson => ({
    id: 'R',
    email: 'mara@hill.example',
    state: '',
    standing: null,
    madeAt: null,
    fields: of,
    lists: ['L'],
    groups: [],
    tags: ['x'],
  });

  it('differs in nothing, by whatever rules, over whatever was there: there is nothing to send', () =>
    fc.assert(
      fc.property(values, values, rules, (meant, before, own) => {
        const intent = intentOf('mara@hill.example', {
          fields: meant,
          rules: own,
          places: [{ list: 'L', group: '' }],
          tags: ['x'],
        });
        const after = Object.fromEntries(
          Object.entries(meant).map(([key, value]) => {
            const old = before[key as keyof typeof before];
            const sent = overwriting(ruleFor(intent, key), value, old);
            return [key, sent === undefined ? old : sent];
          }),
        );
        const rows = compareReadBack(intent, catalogueOf({ fields }), held(after), held(after));
        expect(rows.filter(({ same }) => !same)).toEqual([]);
      }),
    ));
});
