import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addedUp,
  cameBy,
  countsOf,
  coverOf,
  hostOf,
  expectedIn,
  mayBeSilent,
  rhythmOf,
  silenceOf,
  type Count,
  type CountedEvent,
  type CountedWhat,
} from './index.ts';

const DAY = 24 * 3_600_000;

describe('how a visitor came', () => {
  // Common practice, no published source.
  it.each([
    ['email', '', 'mail'],
    ['Newsletter', 'https://anywhere.example/', 'mail'],
    ['cpc', '', 'search'],
    ['social', '', 'social'],
    ['', 'https://www.search.example/?q=moon', 'search'],
    ['', 'https://mail.hill.example/', 'mail'],
    ['', 'https://friends.example/list', 'referral'],
    ['', 'https://www.site.example/other', 'inside'],
    ['', '', 'direct'],
    ['', 'android-app://x', 'direct'],
    ['banner', 'https://friends.example/', 'referral'],
  ])('%j, %j: %s', (medium, referrer, by) => expect(cameBy(medium, referrer, 'https://site.example/page')).toBe(by));
  it('hosts are told without www and in small letters', () =>
    expect(hostOf('HTTPS://WWW.Hill.Example:8080/a')).toBe('hill.example'));
});

describe('silence', () => {
  it('is told when it is longer than the rhythm of the source', () => {
    // Twelve a day: half a day without any has the chance e^-6.
    const silence = silenceOf(336, 28 * DAY, 0, DAY / 2);
    expect(silence).toMatchObject({ since: 0, usualADay: 12 });
    expect(silence?.chance).toBeCloseTo(Math.exp(-6), 10);
    expect(silenceOf(336, 28 * DAY, 0, DAY / 4)).toBeNull();
  });
  it('is not told of a source that is rarely used, or never was', () => {
    expect(silenceOf(4, 28 * DAY, 0, 1000 * DAY)).toBeNull();
    expect(silenceOf(10, 28 * DAY, 0, 7 * DAY)).toBeNull();
    expect(silenceOf(10, 28 * DAY, 0, 15 * DAY)).not.toBeNull();
    expect(silenceOf(0, 28 * DAY, null, 1000 * DAY)).toBeNull();
  });
});

describe('a rhythm by the hours of the day', () => {
  // Thirty days of twenty at nine, ten and eleven in the morning, and none at night.
  const mornings = rhythmOf(new Map([9, 10, 11].map((hour) => [hour, 600])), 30);
  const at = (hours: number) => hours * 3_600_000;

  it('adds up to what comes in a day, whichever hours are looked at', () => {
    expect(mornings.reduce((sum, one) => sum + one, 0)).toBeCloseTo(60, 10);
    expect(mornings[10]).toBe(20);
    expect(expectedIn(mornings, at(10), at(11))).toBeCloseTo(20, 10);
    expect(expectedIn(mornings, at(10.25), at(10.75))).toBeCloseTo(10, 10);
    expect(expectedIn(mornings, at(7.3), at(7.3) + 3 * DAY)).toBeCloseTo(180, 10);
    expect(expectedIn(mornings, at(23), at(24 + 9))).toBeCloseTo(5, 10);
  });

  it('lets the night be silent, and not the morning', () => {
    const [count, stretch] = [1_800, 30 * DAY];
    expect(silenceOf(count, stretch, at(12.9), at(24 + 7), mornings)).toBeNull();
    expect(silenceOf(count, stretch, at(12.9), at(24 + 7))).not.toBeNull();
    expect(silenceOf(count, stretch, at(24 + 9.5), at(24 + 10.1), mornings)?.chance).toBeLessThan(0.001);
  });

  it('is asked for only of what has been quiet for a while', () => {
    expect(mayBeSilent(336, 28 * DAY, 0, at(1))).toBe(false);
    expect(mayBeSilent(336, 28 * DAY, 0, at(2))).toBe(true);
    expect(mayBeSilent(336, 28 * DAY, null, at(2))).toBe(false);
  });
});

describe('counts', () => {
  const event = (what: CountedWhat, at: number, said: Partial<CountedEvent> = {}): CountedEvent => {
    const nothing = { page: '', device: '', campaign: '', source: '', medium: '', term: '', content: '' };
    return { ...nothing, referrer: '', cameBy: '', variant: '', question: '', sourceId: 's', what, at, ...said };
  };
  const told = (counts: Count[]) =>
    counts.map(({ dimension, at, value, what, count }) => [dimension, at, value, what, count].join(' '));

  it('are by the hour, of all, and by each thing that is said', () => {
    const events = [
      event('shown', 1, { page: '/a', device: 'phone' }),
      event('shown', 3_599_999, { page: '/b', device: 'phone' }),
      event('shown', 3_600_000, { page: '/b' }),
    ];
    expect(told(countsOf(events)).sort()).toEqual(
      [
        'all 0  shown 2',
        'all 1  shown 1',
        'device 0 phone shown 2',
        'page 0 /a shown 1',
        'page 0 /b shown 1',
        'page 1 /b shown 1',
      ].sort(),
    );
  });

  it('of ways and of what was set aside are by what a question is, and by nothing else', () =>
    expect(told(countsOf([event('aside', 0, { page: '/a', question: 'trap' }), event('way', 0)]))).toEqual([
      'question 0 trap aside 1',
    ]));

  it('add up to those of days and of all sources', () => {
    const hours = countsOf([
      event('shown', 0),
      event('shown', 23 * 3_600_000, { sourceId: 't' }),
      event('shown', 24 * 3_600_000),
    ]);
    const days = addedUp(hours, ({ at }) => ({ at: Math.floor(at / 24), sourceId: '' }));
    expect(told(days)).toEqual(['all 0  shown 2', 'all 1  shown 1']);
    // What they came of is as it was.
    expect(hours.map(({ count }) => count)).toEqual([1, 1, 1]);
  });
});

describe('the stretches that a time is read off', () => {
  it('are the very hours of it, each once, and few', () =>
    fc.assert(
      fc.property(fc.nat(600_000), fc.nat(9_000), (from, long) => {
        const counted = new Map<number, number>();
        const covers = coverOf(from, from + long);
        for (const { hours, from: begin, to: end, sign } of covers)
          for (let hour = begin * hours; hour < end * hours; hour += 1)
            counted.set(hour, (counted.get(hour) ?? 0) + sign);
        const hoursOf = [...counted].filter(([, times]) => times !== 0);
        expect(hoursOf.every(([hour, times]) => times === 1 && hour >= from && hour < from + long)).toBe(true);
        expect(hoursOf).toHaveLength(long);
        // Half of a longer one at each end, and the longest of them between.
        const most = 2 * (12 + 4 + 2) + long / (28 * 24) + 1;
        expect(covers.reduce((sum, { from: begin, to: end }) => sum + end - begin, 0)).toBeLessThanOrEqual(most);
      }),
      { numRuns: 300 },
    ));
});
