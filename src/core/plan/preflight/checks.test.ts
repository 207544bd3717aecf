import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../../test/world/catalogue.ts';
import { formOf, sourceField } from '../../../../test/world/fields.ts';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import { chainOf, plainLine, type DestinationField, type MapLine } from '../../mapping/index.ts';
import type { SourceField } from '../../values/index.ts';
import { preflight, type RouteDocument, type Target } from '../index.ts';
import { CHECKS } from './checks/index.ts';

const there = (
  key: string,
  type: DestinationField['type'],
  more: Partial<DestinationField> = {},
): DestinationField => ({
  key,
  label: `${key} there`,
  type,
  required: false,
  choices: [],
  maxLength: null,
  ...more,
});
const DESTINATION = [
  there('often', 'choice', { choices: ['every month', 'Never'] }),
  there('flag', 'yes/no'),
  there('born', 'date'),
  there('note', 'text', { maxLength: 20 }),
  there('figure', 'number'),
];
const FIELDS = [
  sourceField('email', 'email', { required: true, keepAs: 'email' }),
  sourceField('likes', 'choice', { label: 'Likes', options: ['every month', 'never', 'now and then'] }),
  sourceField('many', 'several choices', { label: 'Many', options: ['a', 'b'] }),
  sourceField('words', 'text', { label: 'Words' }),
  sourceField('story', 'long text', { label: 'Story' }),
  sourceField('tick', 'yes/no', { label: 'Yes, write to me' }),
  sourceField('paper', 'file', { label: 'Paper' }),
];
const catalogue = catalogueOf({
  fields: DESTINATION,
  lists: [{ id: 'L', name: 'Letter', groups: [], confirms: false }],
});

const target = (more: Partial<Target> = {}) => targetOf('t', more);
const route = (more: Partial<RouteDocument> = {}): RouteDocument => {
  const { consent } = routeOf();
  const asks = [{ id: 'a', purpose: 'p', channels: ['email' as const], tickField: 'tick' }];
  return routeOf({ targets: [target()], consent: { ...consent, asks, confirmedBy: { by: 'iwashi' } }, ...more });
};
const withLine = (to: string, from: string, more: Partial<MapLine> = {}) =>
  route({ targets: [target({ lines: [plainLine({ id: 'l', to, from: { kind: 'field', field: from }, ...more })] })] });

/** What the checks with files of their own find. */
const found = (document: RouteDocument, { fields = FIELDS, others = [] as RouteDocument[] } = {}) =>
  preflight({
    document,
    sources: [{ name: 'Form', live: formOf(fields) }],
    catalogues: { C: catalogue },
    purposes: [],
    knowledge: [],
    others: others.map((other, index) => ({ id: `o${index}`, name: 'Other', document: other })),
  }).filter(({ code }) => code !== '');
const changed = (id: string, more: Partial<SourceField>) =>
  FIELDS.map((field) => (field.id === id ? { ...field, ...more } : field));

const look = (pairs: [string, string][], unknown: string) => chainOf({ kind: 'look-up', options: { pairs, unknown } });
const EVERY: [string, string] = ['every month', 'every month'];
const NEVER: [string, string] = ['never', 'Never'];
const SOMETIMES: [string, string] = ['now and then', 'every month'];
const intoList = (id: string) => target({ id, places: [{ id: 'p', list: 'L', group: '', when: null }] });
const when = (value: string) => ({ kind: 'test' as const, id: 'c', field: 'likes', test: 'is' as const, value });

/** Each check, provoked and mended. */
const CASES: Record<string, [provoked: () => ReturnType<typeof found>, mended: () => ReturnType<typeof found>]> = {
  'a consent box is ticked already': [
    () => found(route(), { fields: changed('tick', { preset: 'yes' }) }),
    () => found(route(), { fields: changed('tick', { preset: '' }) }),
  ],
  'one tick for two purposes': [
    () => {
      const { consent } = route();
      const second = { id: 'b', purpose: 'q', channels: ['email' as const], tickField: 'tick' };
      return found(route({ consent: { ...consent, asks: [...consent.asks, second] } }));
    },
    () => {
      const { consent } = route();
      const second = { id: 'b', purpose: 'q', channels: ['email' as const], tickField: '' };
      return found(route({ consent: { ...consent, asks: [...consent.asks, second] } }));
    },
  ],
  'a broken placeholder in the confirmation mail': [
    () => {
      const { consent } = route();
      return found(route({ consent: { ...consent, mail: { ...consent.mail, body: '{lnk} {link}' } } }));
    },
    () => found(route()),
  ],
  'type cannot fit': [() => found(withLine('figure', 'paper')), () => found(withLine('figure', 'words'))],
  'a written value is not taken there': [
    () => found(withLine('figure', '', { from: { kind: 'fixed', value: 'many' } })),
    () => found(withLine('figure', '', { from: { kind: 'fixed', value: '7' } })),
  ],
  'look-up gives what is no choice there': [
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, ['now and then', 'often']], 'is left out') })),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is left out') })),
  ],
  'look-up misses answers': [
    () => found(withLine('often', 'likes', { steps: look([EVERY], 'is an error') })),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is an error') })),
  ],
  'answers are no choices there': [
    () => found(withLine('often', 'likes')),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is an error') })),
  ],
  'several answers for one value': [
    () =>
      found(
        withLine('often', 'many', {
          steps: look(
            [
              ['a', 'Never'],
              ['b', 'Never'],
            ],
            'is kept',
          ),
        }),
      ),
    () =>
      found(
        withLine('often', 'many', {
          steps: chainOf(
            { kind: 'pick', options: {} },
            {
              kind: 'look-up',
              options: {
                pairs: [
                  ['a', 'Never'],
                  ['b', 'Never'],
                ],
              },
            },
          ),
        }),
      ),
  ],
  'a flag is fed by words': [() => found(withLine('flag', 'words')), () => found(withLine('flag', 'tick'))],
  'may be too long there': [
    () => found(withLine('note', 'story')),
    () => found(withLine('note', 'story', { steps: chainOf({ kind: 'cut', options: { length: 20 } }) })),
  ],
  'a list goes into a text': [
    () => found(withLine('note', 'many')),
    () =>
      found(withLine('note', 'many', { steps: chainOf({ kind: 'join', options: {} }, { kind: 'cut', options: {} }) })),
  ],
  'the same list twice': [
    () => found(route({ targets: [intoList('one'), intoList('two')] })),
    () => found(route({ targets: [intoList('one'), target({ id: 'two' })] })),
  ],
  'a condition asks for what is no answer': [
    () => found(route({ targets: [target({ when: when('sometimes') })] })),
    () => found(route({ targets: [target({ when: when('Never') })] })),
  ],
};

describe('a check of a route before it goes live', () => {
  it('has a case here, a code of its own, and says why it matters', () => {
    expect(CHECKS.map(({ code }) => code).sort()).toEqual(Object.keys(CASES).sort());
    expect(new Set(CHECKS.map(({ code }) => code)).size).toBe(CHECKS.length);
    for (const { why } of CHECKS) expect(why).toMatch(/\.$|\)\.$/);
  });

  it.each(Object.entries(CASES))('%s: is found, and is gone when it is mended', (code, [provoked, mended]) => {
    const before = provoked();
    const own = before.filter((one) => one.code === code);
    expect(own).toHaveLength(1);
    expect(own[0]).toMatchObject({
      message: expect.stringMatching(/\.$/) as string,
      fix: expect.stringMatching(/\.$/) as string,
    });
    expect(mended().map((one) => one.code)).not.toContain(code);
  });

  it('offers the step that mends it, filled with what is known', () => {
    const [finding] = found(withLine('often', 'likes'));
    expect(finding).toMatchObject({
      line: 'often',
      target: 0,
      mend: {
        kind: 'look-up',
        options: { pairs: [EVERY, NEVER, ['now and then', '']] },
      },
    });
  });

  it('takes a row of a look-up without a result for what is missing', () =>
    expect(
      found(withLine('often', 'likes', { steps: look([EVERY, NEVER, ['now and then', '']], 'is kept') })),
    ).toMatchObject([
      { code: 'look-up misses answers', message: 'often there: the look-up gives nothing for "now and then".' },
    ]));

  it('names the other live route that puts people of the same source into the same list', () => {
    const other = route({ targets: [intoList('one')] });
    const document = route({ targets: [intoList('two')] });
    expect(found(document, { others: [other] })).toMatchObject([
      { code: 'the same list twice', message: 'The route "Other" puts people of the same source into Letter as well.' },
    ]);
    expect(found(document, { others: [{ ...other, sourceIds: ['another'] }] })).toEqual([]);
  });

  it('says all that is wrong with one line at once', () =>
    expect(found(withLine('note', 'many')).map(({ code }) => code)).toEqual([
      'may be too long there',
      'a list goes into a text',
    ]));
});
