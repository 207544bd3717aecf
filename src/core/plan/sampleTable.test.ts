import { expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { sourceField } from '../../../test/world/fields.ts';
import { routeOf, targetOf } from '../../../test/world/routes.ts';
import { plainLine } from '../mapping/index.ts';
import type { FieldValues } from '../values/index.ts';
import { judgeSample, NOBODY, oddFirst, type KnownPerson, type KnownSample, type RouteDocument } from './index.ts';

const there = (key: string, type: 'text' | 'email' | 'number', required = false) => ({
  key,
  label: key,
  type,
  required,
  choices: [],
  maxLength: null,
});
const catalogue = catalogueOf({ fields: [there('mail', 'email', true), there('heads', 'number', true)] });
const line = (to: string, field: string) => plainLine({ id: `l-${to}`, to, from: { kind: 'field', field } });
const target = targetOf('t', { lines: [line('mail', 'email'), line('heads', 'heads')] });
const draft = routeOf({ targets: [target] });
const sample = (values: FieldValues, known: Partial<KnownPerson> = {}): KnownSample => ({
  id: 's',
  receivedAt: '2026-05-31T12:00:00Z',
  values: { email: 'mara@hill.example', heads: 3, ...values },
  visit: {},
  keys: [{ kind: 'email', value: 'mara@hill.example' }],
  known: { ...NOBODY, ...known },
});
const judged = (
  one: KnownSample,
  { live = null, document = draft }: { live?: RouteDocument | null; document?: RouteDocument } = {},
) =>
  judgeSample(one, {
    fields: [
      sourceField('email', 'email', { keepAs: 'email' }),
      sourceField('heads', 'number'),
      sourceField('name', 'text', { keepAs: 'full_name' }),
    ],
    statement: '',
    trust: 'usual',
    catalogues: { C: catalogue },
    now: 0,
    draft: document,
    live,
  });

it('finds who would be held, who left, who would be changed, what differs from live, and who goes nowhere', () => {
  expect(judged(sample({ heads: 'many' }))).toMatchObject({ oddity: 'held', who: 'mara@hill.example' });
  const asking = routeOf({
    targets: [{ ...target, needs: { ask: 'a', channel: 'email' } }],
    consent: { ...draft.consent, asks: [{ id: 'a', purpose: 'p', channels: ['email'], tickField: '' }] },
  });
  const left = { consent: [{ kind: 'withdrawn' as const, purpose: 'p', channel: 'email' as const, at: 1 }] };
  expect(judged(sample({}, left), { document: asking })).toMatchObject({ oddity: 'refused' });
  const known = {
    contact: { id: 'P', address: 'mara@hill.example', values: { full_name: 'Mara' } },
    identified: {
      sure: { id: 'P', by: { kind: 'email' as const, value: 'mara@hill.example' } },
      possible: [],
    },
  };
  expect(judged(sample({ name: 'Ada' }, known))).toMatchObject({
    oddity: 'changes somebody',
    why: 'Of somebody known: full name.',
  });
  const other = routeOf({ targets: [{ ...target, tags: [{ id: 'x', tag: 'moon', when: null }] }] });
  expect(judged(sample({}), { live: other })).toMatchObject({
    oddity: 'differs from live',
    why: 'Other places or tags.',
  });
  expect(judged(sample({}), { live: routeOf() })).toMatchObject({ why: '1 more than live.' });
  const moon = { kind: 'test' as const, id: 'c', field: 'name', test: 'is' as const, value: 'Moon' };
  expect(judged(sample({}), { document: routeOf({ targets: [{ ...target, when: moon }] }) })).toMatchObject({
    oddity: 'nothing sent',
    deliveries: 0,
  });
  expect(judged(sample({}), { live: draft })).toMatchObject({ oddity: 'as meant', why: '', deliveries: 1 });
});

it('puts the odd ones first, and keeps the order within a sort', () => {
  const rows = (['as meant', 'held', 'as meant', 'nothing sent'] as const).map((oddity, index) => ({
    ...judged(sample({})),
    id: String(index),
    oddity,
  }));
  expect(oddFirst(rows).map(({ id }) => id)).toEqual(['1', '3', '0', '2']);
});
