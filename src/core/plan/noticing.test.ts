import { describe, expect, it } from 'vitest';
import type { ConsentEventKind, ConsentNeed } from '../consent/index.ts';
import { planNotice, type KnownPerson } from './index.ts';

const key = { kind: 'email' as const, value: 'mara@hill.example' };
const letter: ConsentNeed = { purpose: 'letter', channel: 'email' };
const texts: ConsentNeed = { purpose: 'texts', channel: 'sms' };
const known = (...said: [ConsentNeed, ConsentEventKind][]): KnownPerson => ({
  contact: { id: 'P', address: key.value, values: {} },
  identified: { sure: { id: 'P', by: key }, possible: [] },
  consent: said.map(([need, kind], at) => ({ ...need, kind, at })),
  openConfirmations: [],
  sent: [],
  answered: [],
});
const nobody: KnownPerson = { ...known(), contact: null, identified: { sure: null, possible: [] } };
const plan = (meaning: string, person: KnownPerson, used = [letter, texts]) =>
  planNotice({ meaning, from: 'Tern Post', keys: [key], known: person, used, told: null });

describe('what another system tells', () => {
  it('takes back what the person was sent there for, by each channel, and nothing twice', () => {
    const planned = plan('unsubscribed', known([letter, 'confirmed'], [texts, 'withdrawn']));
    expect(planned.consent).toEqual([{ ...letter, kind: 'withdrawn', wording: 'Unsubscribed in Tern Post.' }]);
    expect(planned.contact).toMatchObject({ match: 'matched', contactId: 'P', changes: [] });
    expect(planned.actions).toEqual([]);
  });

  it('confirms what is by email only', () =>
    expect(plan('confirmed', known([letter, 'given'], [texts, 'given'])).consent).toEqual([
      { ...letter, kind: 'confirmed', wording: 'Confirmed in Tern Post.' },
    ]));

  it('makes nobody of it, and says that nothing follows', () => {
    expect(plan('unsubscribed', nobody)).toMatchObject({ contact: null, consent: [], notes: [{ code: 'nobody' }] });
    expect(plan('suppressed', known([letter, 'confirmed'])).notes).toMatchObject([{ code: 'nothing follows' }]);
    expect(plan('confirmed', known([letter, 'confirmed']), [letter]).consent).toEqual([]);
  });
});
