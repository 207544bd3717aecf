import { describe, expect, it } from 'vitest';
import { endOf, NEW_REGISTRATION, readPayload, type RegistrationDocument } from './index.ts';
import { isInForce } from '../values/index.ts';

const flat: RegistrationDocument = {
  ...NEW_REGISTRATION,
  membershipPaths: { level: '$.plan.name', begins: '$.plan.since', ends: '$.plan.until' },
  zone: 'Pacific/Auckland',
};
const read = (plan: object | undefined, document = flat) => {
  const json = { id: '1', type: 'membership.began', member: { email: 'mara@hill.example' }, plan };
  const readings = readPayload(document, { kind: 'json', json, files: [] }, { known: {}, now: 0 });
  const [first] = Array.isArray(readings) ? readings : [];
  return first?.ok ? first.values.membership : first?.issues;
};

describe('a membership that is told in several places', () => {
  it.each([
    ['days', { name: ' Patron ', since: '2026-01-01', until: '2026-12-31' }, '2026-01-01', '2026-12-31'],
    // Auckland is 13 hours ahead in summer, 12 in winter (IANA time zone database).
    [
      'moments',
      { name: 'Patron', since: '2026-01-01T10:59:59Z', until: '2026-06-30T12:00:00Z' },
      '2026-01-01',
      '2026-07-01',
    ],
    ['moments of that zone', { name: 'Patron', since: '2026-01-01 00:10:00', until: '' }, '2026-01-01', ''],
    ['moments of another zone', { name: 'Patron', since: '2026-01-01T00:10:00-08:00' }, '2026-01-01', ''],
    ['seconds since 1970', { name: 'Patron', since: 1_767_265_200, until: 1_798_714_800 }, '2026-01-02', '2027-01-01'],
    ['milliseconds since 1970', { name: 'Patron', since: 1_767_265_199_000 }, '2026-01-01', ''],
  ])('is read from %s', (_, plan, begins, ends) =>
    expect(read(plan)).toEqual({ level: 'Patron', begins, ends, zone: 'Pacific/Auckland' }),
  );

  it('is none where nothing of it is there, and wrong where it cannot be', () => {
    expect(read(undefined)).toBe('');
    expect(read({ name: 'Patron', since: '2026-12-31', until: '2026-01-01' })).toMatchObject([
      { message: 'It ends before it begins.' },
    ]);
    expect(read({ name: 'Patron', since: 'soon' })).toHaveLength(1);
  });

  it('as one object it is of the zone too; of UTC it says none', () => {
    const json = { member: { email: 'mara@hill.example' }, membership: { level: 'Friend', begins: '', ends: '' } };
    const of = (zone: string) => {
      const readings = readPayload(
        { ...NEW_REGISTRATION, zone },
        { kind: 'json', json, files: [] },
        { known: {}, now: 0 },
      );
      return Array.isArray(readings) && readings[0]?.ok && readings[0].values.membership;
    };
    expect(of('Europe/London')).toEqual({ level: 'Friend', begins: '', ends: '', zone: 'Europe/London' });
    expect(of('UTC')).toEqual({ level: 'Friend', begins: '', ends: '' });
  });
});

describe('the last day of a membership', () => {
  const of = (ends: string, zone?: string) => ({ level: 'Patron', begins: '', ends, ...(zone ? { zone } : {}) });

  it.each([
    ['2026-12-31', undefined, '2027-01-01T00:00:00.000Z'],
    ['2026-12-31', 'Pacific/Auckland', '2026-12-31T11:00:00.000Z'],
    ['2026-12-31', 'America/Los_Angeles', '2027-01-01T08:00:00.000Z'],
    // The day on which clocks go forward in London has 23 hours, and the one on which they go back has 25.
    ['2026-03-29', 'Europe/London', '2026-03-29T23:00:00.000Z'],
    ['2026-10-25', 'Europe/London', '2026-10-26T00:00:00.000Z'],
  ])('%s of %s is over at %s, and until then the membership is in force', (ends, zone, over) => {
    const end = endOf(of(ends, zone)) ?? 0;
    expect(new Date(end).toISOString()).toBe(over);
    expect(isInForce(of(ends, zone), end - 1)).toBe(true);
    expect(isInForce(of(ends, zone), end)).toBe(false);
  });

  it('never comes where there is none', () => expect(endOf(of(''))).toBeNull());
});
