import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { intentOf } from '../../../test/world/intents.ts';
import type { ConsentEventKind, ConsentNeed } from '../consent/index.ts';
import type { Abilities } from './catalogue.ts';
import {
  deliveriesIn,
  PLAN_FORMAT,
  planInboundEvent,
  propagateWithdrawal,
  type KnownPerson,
  type Plan,
  type PropagationInput,
} from './index.ts';

const LETTER: ConsentNeed = { purpose: 'letter', channel: 'email' };
const OFFERS: ConsentNeed = { purpose: 'offers', channel: 'email' };
const TEXTS: ConsentNeed = { purpose: 'letter', channel: 'sms' };
const key = { kind: 'email' as const, value: 'mara@hill.example' };
const place = (list: string) => [{ list, group: '' }];

type Sent = KnownPerson['sent'][number];
const sent = (connectionId: string, need: ConsentNeed, more: Partial<Sent> & { list?: string } = {}): Sent => ({
  routeId: 'R',
  routeVersion: 3,
  targetId: `T ${connectionId} ${need.purpose}`,
  connectionId,
  arrived: true,
  intent: intentOf(key.value, { ...need, places: place(more.list ?? 'L'), tags: ['web'], fields: { given: 'Mara' } }),
  ...more,
});

const known = (own: Sent[], ...said: [ConsentNeed, ConsentEventKind][]): KnownPerson => ({
  contact: { id: 'P', address: key.value, values: {} },
  identified: { sure: { id: 'P', by: key }, possible: [] },
  consent: said.map(([need, kind], at) => ({ ...need, kind, at })),
  openConfirmations: [],
  sent: own,
  answered: [],
});

const LISTS: Partial<Abilities> = { unsubscribes: ['email'], leavesLists: true };
const world = (can: Partial<Abilities>[], more: Partial<PropagationInput> = {}): Omit<PropagationInput, 'known'> => {
  const ids = can.map((_, index) => `C${index + 1}`);
  return {
    agreedThere: [],
    catalogues: Object.fromEntries(ids.map((id, index) => [id, withAbilities(can[index] ?? {})])),
    names: Object.fromEntries(ids.map((id) => [id, `Service ${id}`])),
    toldBy: '',
    ...more,
  };
};
const withAbilities = (can: Partial<Abilities>) => {
  const catalogue = catalogueOf({});
  return { ...catalogue, can: { ...catalogue.can, ...can } };
};

function tell(person: KnownPerson, around: Omit<PropagationInput, 'known'>, needs = [LETTER]): Plan {
  const plan: Plan = { format: PLAN_FORMAT, contact: null, consent: [], actions: [], notes: [] };
  propagateWithdrawal(plan, { needs, wording: 'No more.' }, { ...around, known: person });
  return plan;
}
const ends = (plan: Plan) => deliveriesIn(plan).map(({ connectionId, intent }) => [connectionId, intent.ends]);

describe('telling others that somebody took back what they agreed to', () => {
  it('unsubscribes them wherever they get something for it, once each, and writes nothing else about them', () => {
    const two = [sent('C1', LETTER), sent('C1', LETTER, { targetId: 'other' }), sent('C2', LETTER)];
    const plan = tell(known(two, [LETTER, 'withdrawn']), world([LISTS, LISTS]));
    expect(ends(plan)).toEqual([
      ['C1', 'subscription'],
      ['C2', 'subscription'],
    ]);
    expect(deliveriesIn(plan)[0]).toMatchObject({
      after: { kind: 'now' },
      needs: null,
      because: 'They took back what they agreed to by email, so Service C1 is told.',
      routeVersion: 3,
      intent: { ...LETTER, fields: {}, places: [], tags: [], leaves: place('L'), wording: 'No more.' },
    });
  });

  it('leaves alone what stands on something else, and on another channel', () => {
    const own = [sent('C1', OFFERS), sent('C2', TEXTS), sent('C3', { purpose: '', channel: 'email' })];
    expect(tell(known(own, [OFFERS, 'confirmed']), world([LISTS, LISTS, LISTS])).actions).toEqual([]);
  });

  it('takes them out of the places alone where they get something else that they still agree to', () => {
    const own = [sent('C1', LETTER, { list: 'L1' }), sent('C1', OFFERS, { list: 'L2' })];
    const both = tell(known(own, [LETTER, 'withdrawn'], [OFFERS, 'confirmed']), world([LISTS]));
    expect(ends(both)).toEqual([['C1', 'places']]);
    expect(deliveriesIn(both)[0]?.intent.leaves).toEqual(place('L1'));
    // What they took back before holds nobody subscribed.
    expect(ends(tell(known(own, [OFFERS, 'withdrawn']), world([LISTS])))).toEqual([['C1', 'subscription']]);
    expect(ends(tell(known(own, [OFFERS, 'confirmed']), world([LISTS]), [LETTER, OFFERS]))).toEqual([
      ['C1', 'subscription'],
    ]);
  });

  it('says where nobody can be taken out from here', () => {
    const plan = tell(
      known([sent('C1', LETTER), sent('C2', TEXTS)]),
      world([{ leavesLists: false, leavesGroups: false }, LISTS]),
      [LETTER, TEXTS],
    );
    // Nobody forgets it: it stays open until somebody says that they did it there.
    expect(deliveriesIn(plan).map(({ connectionId, held }) => [connectionId, held?.cause ?? null])).toEqual([
      ['C1', 'to be ended by hand'],
      ['C2', null],
    ]);
    expect(plan.notes).toMatchObject([
      { code: 'cannot be told', text: expect.stringContaining('Service C1') as string },
    ]);
  });

  it('tells whoever told it nothing, nor where it is ended already', () => {
    const ended = sent('C2', LETTER);
    ended.intent = { ...ended.intent, ends: 'subscription' };
    const own = [sent('C1', LETTER), ended];
    expect(tell(known(own), world([LISTS, LISTS], { toldBy: 'C1' })).actions).toEqual([]);
  });

  it('tells the shops that know them, for what their boxes are asked for', () => {
    const shop = { connectionId: 'C1', routeId: 'R', routeVersion: 2, sourceId: 'S', asks: [LETTER, TEXTS] };
    const around = world([{ unsubscribes: ['email', 'sms'] }], { agreedThere: [shop] });
    const both = tell(known([]), around, [LETTER, TEXTS]);
    expect(deliveriesIn(both).map(({ targetId, intent }) => [targetId, intent.channel, intent.ends])).toEqual([
      ['S', 'email', 'subscription'],
      ['S', 'sms', 'subscription'],
    ]);
    expect(tell(known([]), around, [OFFERS]).actions).toEqual([]);
    const nameless = known([]);
    const unknown = { ...nameless, contact: nameless.contact && { ...nameless.contact, address: '' } };
    expect(tell(unknown, around).actions).toEqual([]);
  });

  it('ends after one round where two systems echo each other', () => {
    const own = [sent('C1', LETTER), sent('C2', LETTER)];
    const first = planInboundEvent({
      meaning: 'unsubscribed',
      from: 'Service C1',
      at: 1e9,
      keys: [key],
      known: known(own, [LETTER, 'confirmed']),
      used: [{ ...LETTER, sentAt: 0, ended: false }],
      told: world([LISTS, LISTS], { toldBy: 'C1' }),
    });
    expect(first.consent).toMatchObject([{ kind: 'withdrawn' }]);
    expect(ends(first)).toEqual([['C2', 'subscription']]);
    const echo = planInboundEvent({
      meaning: 'unsubscribed',
      from: 'Service C2',
      at: 1e9,
      keys: [key],
      known: known(own, [LETTER, 'confirmed'], [LETTER, 'withdrawn']),
      used: [{ ...LETTER, sentAt: 0, ended: true }],
      told: world([LISTS, LISTS], { toldBy: 'C2' }),
    });
    expect([echo.consent, echo.actions]).toEqual([[], []]);
  });

  it('takes back what was left and nothing else, among two to four systems that tell each other', () => {
    const NEEDS = [LETTER, OFFERS, TEXTS];
    const system = fc.subarray(NEEDS, { minLength: 1 });
    fc.assert(
      fc.property(fc.array(system, { minLength: 2, maxLength: 4 }), fc.nat(), (systems, pick) => {
        const own = systems.flatMap((needs, at) => needs.map((need) => sent(`C${at + 1}`, need)));
        const ended = new Set<string>();
        const echoes = new Set<string>();
        const said: [ConsentNeed, ConsentEventKind][] = NEEDS.map((need) => [need, 'confirmed']);
        const told = [`C${(pick % systems.length) + 1}`];
        let rounds = 0;
        // Whoever is told unsubscribes them by that channel, and tells it back, as services do.
        for (let from = told.shift(); from !== undefined; from = told.shift()) {
          rounds += 1;
          expect(rounds).toBeLessThan(10);
          const there = own.filter(({ connectionId }) => connectionId === from);
          const plan = planInboundEvent({
            meaning: 'unsubscribed',
            from,
            at: 1e9,
            keys: [key],
            known: known(
              own.map((one) =>
                ended.has(one.connectionId + one.intent.channel)
                  ? { ...one, intent: { ...one.intent, ends: 'subscription' as const } }
                  : one,
              ),
              ...said,
            ),
            used: there.map(({ intent: { purpose, channel } }) => ({
              purpose,
              channel,
              sentAt: 0,
              ended: ended.has(from + channel) || echoes.has(from),
            })),
            told: world(
              systems.map(() => ({ unsubscribes: ['email', 'sms'], leavesLists: true })),
              { toldBy: from },
            ),
          });
          for (const { purpose, channel } of plan.consent) said.push([{ purpose, channel }, 'withdrawn']);
          for (const { connectionId, intent } of deliveriesIn(plan)) {
            echoes.add(connectionId);
            if (intent.ends === 'subscription') ended.add(connectionId + intent.channel);
            told.push(connectionId);
          }
        }
        const first = systems[pick % systems.length] ?? [];
        const left = first.some(({ channel }) => channel === 'email')
          ? first.filter(({ channel }) => channel === 'email')
          : first;
        const withdrawn = new Set(
          said.filter(([, kind]) => kind === 'withdrawn').map(([need]) => JSON.stringify(need)),
        );
        expect(withdrawn).toEqual(new Set(left.map((need) => JSON.stringify(need))));
      }),
      { numRuns: 300 },
    );
  });
});
