import { describe, expect, it } from 'vitest';
import type { ConsentEventKind, ConsentNeed } from '../consent/index.ts';
import { planInboundEvent, type KnownPerson } from './index.ts';

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
const plan = (meaning: string, person: KnownPerson, used: (ConsentNeed & { ended?: boolean })[] = [letter, texts]) =>
  planInboundEvent({
    meaning,
    from: 'Tern Post',
    at: 1e9,
    keys: [key],
    known: person,
    used: used.map((need) => ({ sentAt: 7, ended: false, ...need })),
    told: null,
  });

describe('what another system tells', () => {
  it('takes back what the person was sent there for by email, and nothing of another channel', () => {
    const planned = plan('unsubscribed', known([letter, 'confirmed'], [texts, 'confirmed']));
    expect(planned.consent).toEqual([{ ...letter, kind: 'withdrawn', wording: 'Unsubscribed in Tern Post.' }]);
    expect(planned.contact).toMatchObject({ match: 'matched', contactId: 'P', changes: [] });
    expect(planned.actions).toEqual([]);
  });

  it('confirms what is by email only', () =>
    expect(plan('confirmed', known([letter, 'given'], [texts, 'given'])).consent).toEqual([
      { ...letter, kind: 'confirmed', wording: 'Confirmed in Tern Post.', answers: 7 },
    ]));

  it('takes back what comes by text message where nothing else was sent there', () =>
    expect(plan('unsubscribed', known([texts, 'confirmed']), [texts]).consent).toMatchObject([
      { ...texts, kind: 'withdrawn' },
    ]));

  it('is written by whoever left before, too: a yes of between that is heard of late counts for nothing', () =>
    expect(plan('unsubscribed', known([letter, 'confirmed'], [letter, 'withdrawn']), [letter]).consent).toMatchObject([
      { ...letter, kind: 'withdrawn' },
    ]));

  it('is our own doing where we ended it there: nothing is taken back by that', () => {
    const planned = plan('unsubscribed', known([letter, 'withdrawn'], [texts, 'confirmed']), [
      { ...letter, ended: true },
      texts,
    ]);
    expect(planned).toMatchObject({
      consent: [],
      actions: [],
      notes: [{ code: 'our own doing' }, { code: 'nothing follows' }],
    });
  });

  it('makes nobody of it, and says that nothing follows', () => {
    expect(plan('unsubscribed', nobody)).toMatchObject({ contact: null, consent: [], notes: [{ code: 'nobody' }] });
    expect(plan('suppressed', known([letter, 'confirmed'])).notes).toMatchObject([{ code: 'nothing follows' }]);
    expect(plan('confirmed', known([letter, 'confirmed']), [letter]).consent).toEqual([]);
  });
});
