import { expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { sourceField } from '../../../test/world/fields.ts';
import { routeOf, targetOf } from '../../../test/world/routes.ts';
import { plainLine } from '../mapping/index.ts';
import { asksIn, deliveriesIn, knowledgeOf, syntheticPerson, planSubmission, type ConfirmedBy } from './index.ts';

const NOW = Date.UTC(2026, 4, 31);
const FIELDS = [
  sourceField('email', 'email', { keepAs: 'email' }),
  sourceField('name', 'text', { keepAs: 'full_name' }),
  sourceField('often', 'choice', { options: ['weekly', 'monthly'], keepAs: 'often' }),
  sourceField('tick', 'yes/no'),
];
const there = (key: string) => ({
  key,
  label: key,
  type: 'text' as const,
  required: false,
  choices: [],
  maxLength: null,
});
const line = (to: string, field: string) => plainLine({ id: to, to, from: { kind: 'field', field } });

const tried = (which: 'known' | 'left', by: ConfirmedBy['by'], email = 'ada@hill.example') => {
  const { consent } = routeOf();
  const document = routeOf({
    targets: [
      targetOf('t', {
        needs: { ask: 'a', channel: 'email' },
        places: [{ id: 'p', list: 'L', group: '', when: null }],
        lines: [line('mail', 'email'), line('called', 'name'), line('often', 'often')],
      }),
    ],
    consent: {
      ...consent,
      asks: [{ id: 'a', purpose: 'letter', channels: ['email'], tickField: 'tick' }],
      confirmedBy: by === 'target' ? { by, targetId: 't' } : { by },
    },
  });
  const input = {
    fields: FIELDS,
    statement: '',
    trust: 'usual' as const,
    values: { email, name: 'Ada Quill', often: 'weekly', tick: true },
    keys: email === '' ? [] : [{ kind: 'email' as const, value: email }],
    visit: {},
    routes: [{ id: 'r', name: 'Route', version: 1, document }],
    catalogues: {
      C: catalogueOf({
        fields: [there('mail'), there('called'), there('often')],
        lists: [{ id: 'L', name: 'Letter', groups: [] }],
      }),
    },
    now: NOW,
  };
  const known = syntheticPerson(which, input);
  return { known, plan: planSubmission({ ...input, known }) };
};

it('somebody known has another name and other answers from before, is in the list, and is asked nothing they confirmed', () => {
  const { known, plan } = tried('known', 'iwashi');
  expect(plan.contact).toMatchObject({ match: 'matched' });
  expect(plan.contact?.changes.map(({ name, from, to }) => [name, from, to])).toEqual([
    ['full_name', 'Wren Kestrel', 'Ada Quill'],
    ['often', 'monthly', 'weekly'],
  ]);
  expect(known.consent.map(({ kind }) => kind)).toEqual(['given', 'confirmed']);
  expect(knowledgeOf(known)).toEqual({ '@agreed letter email': true, '@in list C L': true });
  // What overwrites something of a confirmed person waits for them.
  expect(asksIn(plan)).toHaveLength(1);
});

it('where nobody confirms, nobody did', () =>
  expect(tried('known', 'nobody').known.consent.map(({ kind }) => kind)).toEqual(['given']));

it('somebody who left has taken back what they agreed to, and is asked anew', () => {
  const { known, plan } = tried('left', 'iwashi');
  expect(known.consent.map(({ kind }) => kind)).toEqual(['given', 'confirmed', 'withdrawn']);
  expect(knowledgeOf(known)).toMatchObject({ '@agreed letter email': false });
  expect(asksIn(plan)).toHaveLength(1);
  expect(deliveriesIn(plan)[0]?.after.kind).toBe('confirmed');
  expect(plan.notes.map(({ code }) => code)).toContain('left before');
});

it('of whom nothing says who they are nothing can be known', () =>
  expect(tried('known', 'iwashi', '').known.contact).toBeNull());
