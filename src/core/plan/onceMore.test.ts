import { describe, expect, it } from 'vitest';
import { intentOf } from '../../../test/world/intents.ts';
import type { ConsentEventKind } from '../consent/index.ts';
import { asksIn, deliveriesIn, onceMore, type Deliver, type KnownPerson, type Plan } from './index.ts';

const NEED = { purpose: 'p', channel: 'email' as const };
const deliver = (id: string, after: Deliver['after'], needs: Deliver['needs'] = NEED): Deliver => ({
  kind: 'deliver',
  id,
  after,
  needs,
  because: '',
  routeId: 'R',
  routeVersion: 1,
  targetId: id,
  connectionId: 'C',
  intent: intentOf('mara@hill.example'),
  held: null,
  leftOut: [],
});
const ask: Plan['actions'][number] = {
  kind: 'ask',
  id: 'ask',
  after: { kind: 'now' },
  needs: null,
  because: '',
  routeId: 'R',
  purposes: ['p'],
  to: 'mara@hill.example',
  mail: { subject: '', body: '', button: '' },
  expiresHours: 72,
  joins: null,
};
const plan = (...actions: Plan['actions']): Plan => ({
  format: 6,
  contact: null,
  consent: [
    { kind: 'given', wording: '', ...NEED },
    { kind: 'asked', wording: '', ...NEED },
  ],
  actions,
  notes: [],
});
const waiting = deliver('waits', { kind: 'confirmed', action: 'ask' });
const said = (...kinds: ConsentEventKind[]): KnownPerson['consent'] =>
  kinds.map((kind, index) => ({ kind, at: index + 1, ...NEED }));
const left = (
  planned: Plan,
  known: Partial<Pick<KnownPerson, 'consent' | 'openConfirmations'>> = {},
  wasAskedHere = false,
) => {
  const rest = onceMore(planned, { consent: [], openConfirmations: [], ...known }, () => wasAskedHere);
  return {
    asks: asksIn(rest).map(({ joins }) => joins),
    deliveries: deliveriesIn(rest).map(({ id }) => id),
    events: rest.consent.map(({ kind }) => kind),
  };
};

describe('what is still to be done of what is there already', () => {
  it('is what waits for nobody, and a confirmation that nobody was asked for', () => {
    const now = deliver('now', { kind: 'now' }, null);
    expect(left(plan(ask, now, waiting))).toEqual({ asks: [null], deliveries: ['now', 'waits'], events: ['asked'] });
  });

  it.each([
    ['asked before, in vain', { consent: said('given', 'asked', 'expired') }, false],
    ['asked in the same round', {}, true],
  ])('is nothing for whoever was %s', (_, known, here) =>
    expect(left(plan(ask, waiting), known, here)).toEqual({ asks: [], deliveries: [], events: [] }),
  );

  it('waits for the answer of whoever has not answered yet, without another mail', () => {
    const openConfirmations = [{ id: 'open', purposes: ['p', 'q'], lastSentAt: 0 }];
    expect(left(plan(ask, waiting), { consent: said('asked'), openConfirmations })).toEqual({
      asks: ['open'],
      deliveries: ['waits'],
      events: [],
    });
  });

  it.each<ConsentEventKind>(['withdrawn', 'refused'])('is nothing that needs a consent which was %s', (kind) => {
    const free = deliver('free', { kind: 'now' }, null);
    const known = { consent: said('given', kind) };
    expect(left(plan(ask, deliver('now', { kind: 'now' }), waiting, free), known)).toEqual({
      asks: [],
      deliveries: ['free'],
      events: [],
    });
  });

  it('asks nobody for what leads to nothing', () =>
    expect(left(plan(ask))).toEqual({ asks: [], deliveries: [], events: [] }));
});
