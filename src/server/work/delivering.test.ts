import { describe, expect, it } from 'vitest';
import { intentOf } from '../../../test/world/intents.ts';
import { profileOf } from '../connectors/registry.ts';
import { mostTogether, takeBundle, trustsAnswers, type Job } from './delivering.ts';

/** A job as far as bundling looks at it. */
function job(
  id: string,
  more: Partial<Job['delivery']> & { takenOver?: boolean; duplicates?: string; consent?: Job['consent'] } = {},
): Job {
  const { takenOver = false, duplicates = 'update', consent = null, ...rest } = more;
  const delivery = {
    id,
    cause: null,
    causeDetail: null,
    begunAt: null,
    intent: { ...intentOf('a@b.example'), duplicates },
    ...rest,
  };
  return { delivery, connection: null, consent, takenOver } as unknown as Job;
}

const CONFIRMED: Job['consent'] = { state: 'confirmed', proof: { at: '2026-03-01T10:00:00Z', wording: 'Yes' } };

const bundles = (jobs: Job[], most: number): string[][] => {
  const made: string[][] = [];
  while (jobs.length > 0) made.push(takeBundle(jobs, most).map(({ delivery }) => delivery.id));
  return made;
};

describe('what goes by one request', () => {
  it('is not somebody without an address, by which the answer tells them apart', () => {
    const number = intentOf('', { subject: [{ key: { kind: 'phone', value: '+441632960001' }, field: 'call' }] });
    expect(bundles([job('a'), job('b', { intent: number }), job('c')], 3)).toEqual([['a'], ['b'], ['c']]);
  });
  it('is as many as the service takes, in their order', () =>
    expect(
      bundles(
        ['a', 'b', 'c', 'd', 'e'].map((id) => job(id)),
        2,
      ),
    ).toEqual([['a', 'b'], ['c', 'd'], ['e']]));

  it('is one alone where a service takes people one by one', () =>
    expect(bundles([job('a'), job('b')], mostTogether(profileOf('capstan')))).toEqual([['a'], ['b']]));

  it.each<[string, Parameters<typeof job>[1]]>([
    ['was taken over from a worker that vanished', { takenOver: true }],
    ['may have arrived', { cause: 'time-out' }],
    ['was answered by nonsense', { cause: 'answer unreadable' }],
    ['had begun to be sent where it would be added twice', { begunAt: 1 }],
    ['only fills gaps', { duplicates: 'fill gaps' }],
    ['leaves alone who is there', { duplicates: 'leave alone' }],
    ['the person withdrew from', { consent: { state: 'withdrawn', proof: null } }],
    ['lacks a required value', { cause: 'required field missing', causeDetail: 'Birthday is empty' }],
  ])('leaves out one that %s: that is looked at by itself', (_, more) =>
    expect(bundles([job('a'), job('alone', more), job('b'), job('c')], 25)).toEqual([['a'], ['alone'], ['b', 'c']]),
  );

  it('takes in those of people who agreed, or of whom the ledger has nothing', () =>
    expect(
      bundles([job('a', { consent: { state: 'given', proof: null } }), job('b'), job('c', { consent: CONFIRMED })], 25),
    ).toEqual([['a', 'b', 'c']]));

  it('takes in again what failed for a reason that is known', () =>
    expect(bundles([job('a', { cause: 'rate limited' }), job('b', { cause: 'unavailable' })], 25)).toEqual([
      ['a', 'b'],
    ]));
});

describe('whether an answer is taken for proof', () => {
  const at = (answerUntrueAt: number | null) => ({ answerUntrueAt }) as Job['connection'];
  const trusts = (connection: Job['connection'], id: string, more: Partial<Job['delivery']> = {}, takenOver = false) =>
    trustsAnswers({ connection, delivery: { id, cause: null, ...more }, takenOver });
  const ids = '0123456789abcdef'.split('').map((digit) => `018f-${digit}`);

  it('it is of all but one in sixteen', () => expect(ids.filter((id) => !trusts(at(null), id))).toEqual(['018f-0']));
  it('it is of none once one was not true, or where there is no connection', () => {
    expect(ids.some((id) => trusts(at(1), id))).toBe(false);
    expect(ids.some((id) => trusts(null, id))).toBe(false);
  });
  it('it is not where an earlier try had trouble, or another worker vanished', () => {
    expect(ids.some((id) => trusts(at(null), id, { cause: 'unavailable' }))).toBe(false);
    expect(ids.some((id) => trusts(at(null), id, {}, true))).toBe(false);
  });
});
