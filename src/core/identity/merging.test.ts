import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { consentState, type ConsentEvent } from '../consent/index.ts';
import { KEEP_RULES, TRUSTS, type KeepRule, type Trust } from '../values/index.ts';
import {
  identify,
  merge,
  partsOf,
  presentRecord,
  split,
  standsFor,
  type Claim,
  type ContactKey,
  type Pointers,
} from './index.ts';

describe('merging', () => {
  const none: Pointers = new Map();
  const both = (first: Pointers, from: string, into: string) => {
    const merged = merge(first, from, into);
    if (!merged.ok) throw new Error(merged.issue);
    return merged.value;
  };
  it('makes one of two, and of three', () => {
    const two = both(none, 'a', 'b');
    expect([standsFor(two, 'a'), standsFor(two, 'b'), partsOf(two, 'b').sort()]).toEqual(['b', 'b', ['a', 'b']]);
    const three = both(two, 'a', 'c');
    expect(['a', 'b', 'c'].map((id) => standsFor(three, id))).toEqual(['c', 'c', 'c']);
  });
  it('never goes in a circle', () => {
    const two = both(none, 'a', 'b');
    expect(merge(two, 'b', 'a').ok).toBe(false);
    expect(merge(two, 'a', 'a').ok).toBe(false);
  });
  it('splits off what was merged, with what had been merged into that', () => {
    const three = both(both(none, 'a', 'b'), 'b', 'c');
    const apart = split(three, 'b');
    expect(apart.ok && ['a', 'b', 'c'].map((id) => standsFor(apart.value, id))).toEqual(['b', 'b', 'c']);
    expect(split(three, 'c').ok).toBe(false);
  });
});

/** What happens to a few people, in some order. */
type Happening =
  | { kind: 'submission'; keys: ContactKey[]; name: string; rule: KeepRule; trust: Trust; at: number }
  | { kind: 'consent'; key: ContactKey; event: ConsentEvent }
  | { kind: 'merge'; from: number; into: number }
  | { kind: 'split'; of: number };

const KEYS: ContactKey[] = [
  { kind: 'id', scope: 'shop', value: '1' },
  { kind: 'email', value: 'a@hill.example' },
  { kind: 'email', value: 'b@hill.example' },
  { kind: 'phone', value: '+441632960001' },
  { kind: 'phone', value: '+441632960002' },
];
const order = { id: 0, email: 1, phone: 2 };

const submission = fc
  .record({
    keys: fc.uniqueArray(fc.constantFrom(...KEYS), { minLength: 1, maxLength: 3 }),
    name: fc.constantFrom('', 'Mara', 'Ulric'),
    rule: fc.constantFrom(...KEEP_RULES),
    trust: fc.constantFrom(...TRUSTS),
    at: fc.integer({ min: 0, max: 9 }),
  })
  .map(({ keys, ...rest }): Happening => ({
    kind: 'submission',
    // One key of a kind, the surest first, as a form has them.
    keys: keys
      .filter((key, index) => keys.findIndex(({ kind }) => kind === key.kind) === index)
      .sort((a, b) => order[a.kind] - order[b.kind]),
    ...rest,
  }));
const consent = fc
  .record({
    key: fc.constantFrom(...KEYS),
    event: fc.record({
      kind: fc.constantFrom('given', 'confirmed', 'withdrawn', 'not given', 'expired', 'asked', 'refused'),
      at: fc.integer({ min: 0, max: 9 }),
    }),
  })
  .map((one): Happening => ({ kind: 'consent', ...one }));
const merging = fc.record({ kind: fc.constant('merge' as const), from: fc.nat(5), into: fc.nat(5) });
const splitting = fc.record({ kind: fc.constant('split' as const), of: fc.nat(5) });
const happenings = fc.array(
  fc.oneof(
    { weight: 4, arbitrary: submission },
    { weight: 2, arbitrary: consent },
    { weight: 2, arbitrary: merging },
    { weight: 1, arbitrary: splitting },
  ),
  { maxLength: 14 },
);

interface Contact {
  id: string;
  keys: ContactKey[];
  claims: Claim[];
  consent: ConsentEvent[];
}

/** Lets it happen, by the pieces that the store uses: what is said goes to the contact whose key it is, merged or not. */
function live(all: Happening[]): { contacts: Contact[]; pointers: Pointers } {
  const contacts: Contact[] = [];
  let pointers: Pointers = new Map();
  const ownerOf = (key: ContactKey) => contacts.find(({ keys }) => keys.includes(key));
  let number = 0;
  for (const one of all) {
    number += 1;
    if (one.kind === 'merge') {
      const merged = merge(pointers, contacts[one.from]?.id ?? '', contacts[one.into]?.id ?? '');
      if (contacts[one.from] && contacts[one.into] && merged.ok) pointers = merged.value;
    } else if (one.kind === 'split') {
      const apart = split(pointers, contacts[one.of]?.id ?? '');
      if (apart.ok) pointers = apart.value;
    } else if (one.kind === 'consent') ownerOf(one.key)?.consent.push(one.event);
    else {
      const candidates = one.keys.flatMap((by) => {
        const owner = ownerOf(by);
        const name = owner && presentRecord(owner.claims).get('full_name')?.value;
        return owner ? [{ id: owner.id, by, keys: owner.keys, name: typeof name === 'string' ? name : '' }] : [];
      });
      const { sure } = identify(one.keys, one.name, candidates);
      let contact = contacts.find(({ id }) => id === sure?.id);
      if (!contact) contacts.push((contact = { id: `c${contacts.length}`, keys: [], claims: [], consent: [] }));
      contact.keys.push(...one.keys.filter((key) => !ownerOf(key)));
      if (one.name !== '')
        contact.claims.push({
          id: String(number).padStart(4, '0'),
          name: 'full_name',
          value: one.name,
          rule: one.rule,
          trust: one.trust,
          at: one.at,
        });
    }
  }
  return { contacts, pointers };
}

const splitAll = (pointers: Pointers): Pointers => {
  let left = pointers;
  for (const id of pointers.keys()) {
    const apart = split(left, id);
    if (apart.ok) left = apart.value;
  }
  return left;
};

/** What is known of a person: all that was said of the contacts that are they. */
function personOf(contacts: Contact[], pointers: Pointers, id: string) {
  const parts = new Set(partsOf(pointers, id));
  const own = contacts.filter((contact) => parts.has(contact.id));
  return {
    record: Object.fromEntries(
      [...presentRecord(own.flatMap(({ claims }) => claims))].map(([name, { value }]) => [name, value]),
    ),
    consent: consentState(own.flatMap((contact) => contact.consent)),
    keys: own.flatMap(({ keys }) => keys),
  };
}

describe('in every order of submissions, consent, merges and splits', () => {
  it('splitting all merges gives what there would be without them', () => {
    fc.assert(
      fc.property(happenings, (all) => {
        const merged = live(all);
        const never = live(all.filter(({ kind }) => kind !== 'merge' && kind !== 'split'));
        // The contacts, and what was said of each, are untouched by merging: claim numbers alone differ.
        const said = ({ contacts }: { contacts: Contact[] }) =>
          contacts.map(({ id, keys, claims, consent: events }) => ({
            id,
            keys,
            claims: claims.map(({ value, at }) => [value, at]),
            events,
          }));
        expect(said(merged)).toEqual(said(never));
        const apart = splitAll(merged.pointers);
        for (const { id } of merged.contacts)
          expect(personOf(merged.contacts, apart, id)).toEqual(personOf(never.contacts, new Map(), id));
      }),
      { numRuns: 10_000 },
    );
  }, 120_000);

  it('everybody is one person, whom one contact stands for, and nothing is lost or told twice', () => {
    fc.assert(
      fc.property(happenings, (all) => {
        const { contacts, pointers } = live(all);
        const heads = contacts.filter(({ id }) => standsFor(pointers, id) === id);
        const parts = heads.flatMap(({ id }) => partsOf(pointers, id));
        expect([...parts].sort()).toEqual(contacts.map(({ id }) => id).sort());
        const keys = contacts.flatMap((contact) => contact.keys);
        expect(new Set(keys).size).toBe(keys.length);
      }),
      { numRuns: 2_000 },
    );
  }, 60_000);

  it('what one merge made, its split takes back, whatever the person was before', () => {
    fc.assert(
      fc.property(happenings, fc.nat(5), fc.nat(5), (all, from, into) => {
        const { contacts, pointers } = live(all);
        const [first, second] = [contacts.at(from), contacts.at(into)];
        if (!first || !second) return;
        const head = standsFor(pointers, first.id);
        const merged = merge(pointers, first.id, second.id);
        if (!merged.ok) return;
        const apart = split(merged.value, head);
        expect(apart.ok && new Map(apart.value)).toEqual(new Map(pointers));
      }),
      { numRuns: 2_000 },
    );
  }, 60_000);
});
