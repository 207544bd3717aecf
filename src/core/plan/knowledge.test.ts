import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { intentOf } from '../../../test/world/intents.ts';
import { decide, isOfKnown } from '../conditions/index.ts';
import type { ConsentEventKind } from '../consent/index.ts';
import { agreedBy, knowledgeFields, knowledgeOf, type KnownPerson } from './index.ts';

const said = (kind: ConsentEventKind, at: number) => ({ kind, purpose: 'p', channel: 'email' as const, at });
const sent = (more: Partial<KnownPerson['sent'][number]> = {}): KnownPerson['sent'][number] => ({
  routeId: 'R',
  routeVersion: 1,
  targetId: 'T',
  connectionId: 'C',
  arrived: true,
  intent: intentOf('mara@hill.example', { places: [{ list: 'L', group: '' }], tags: ['moon'] }),
  ...more,
});

describe('what is known of a person', () => {
  it.each<[ConsentEventKind[], boolean | undefined]>([
    [[], undefined],
    [['not given'], undefined],
    [['given'], true],
    [['given', 'asked', 'confirmed'], true],
    [['given', 'withdrawn'], false],
    [['given', 'withdrawn', 'given', 'confirmed'], true],
  ])('by %j they agreed: %s', (kinds, agreed) => {
    const consent = kinds.map((kind, index) => said(kind, index + 1));
    expect(knowledgeOf({ consent, sent: [] })['@agreed p email']).toBe(agreed);
  });

  it('is what arrived, and what was taken away again', () => {
    expect(knowledgeOf({ consent: [], sent: [sent()] })).toEqual({ '@in list C L': true, '@has tag C moon': true });
    expect(knowledgeOf({ consent: [], sent: [sent({ arrived: false })] })).toEqual({});
    const left = intentOf('mara@hill.example', { places: [], leaves: [{ list: 'L', group: '' }], tagsOff: ['moon'] });
    expect(knowledgeOf({ consent: [], sent: [sent({ intent: left })] })).toEqual({
      '@in list C L': false,
      '@has tag C moon': false,
    });
  });

  it('of what a plan has people agree to, only what they agreed to counts', () => {
    const plan = {
      consent: [
        { kind: 'given' as const, purpose: 'p', channel: 'email' as const, wording: '' },
        { kind: 'not given' as const, purpose: 'q', channel: 'sms' as const, wording: '' },
      ],
    };
    expect(agreedBy(plan)).toEqual({ '@agreed p email': true });
  });
});

it('every fact has a field, under the same id, with a label that makes a sentence', () => {
  const catalogue = catalogueOf({
    lists: [{ id: 'L', name: 'Sky letter', groups: [] }],
    tags: [{ id: 'moon', name: 'moon' }],
  });
  const fields = knowledgeFields(
    [{ id: 'p', name: 'Letter', channels: ['email', 'sms'] }],
    [
      { id: 'C', name: 'Tern Post', catalogue },
      { id: 'D', name: 'Never verified', catalogue: null },
    ],
  );
  expect(fields.map(({ label }) => label)).toEqual([
    'has agreed to Letter by email',
    'has agreed to Letter by text message',
    'was put into Sky letter in Tern Post',
    'was given the tag moon in Tern Post',
  ]);
  const facts = knowledgeOf({ consent: [said('given', 1)], sent: [sent()] });
  for (const id of Object.keys(facts)) {
    expect(isOfKnown(id)).toBe(true);
    const test = { kind: 'test' as const, id: 'c', field: id, test: 'is' as const, value: 'yes' };
    const { verdict, why } = decide(test, { values: facts, now: 0 }, fields);
    expect([verdict, why]).toEqual(['holds', expect.stringMatching(/^the person (has|was) /)]);
  }
  expect(['@page', 'email', '@campaign'].some(isOfKnown)).toBe(false);
});
