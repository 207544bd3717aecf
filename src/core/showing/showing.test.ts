import { describe, expect, it } from 'vitest';
import {
  deviceOf,
  fitsPattern,
  evaluateShowing,
  PLAIN_SHOWING,
  type Showing,
  type ShowingFacts,
  type Trigger,
} from './index.ts';

const FACTS: ShowingFacts = {
  page: 'https://hill.example/blog/moon?utm_campaign=autumn',
  referrer: 'https://www.search.example/?q=moon',
  now: 10_000_000,
  width: 1280,
  pagesSeen: 2,
  returning: false,
  shownAt: null,
  closedAt: null,
  sentAt: null,
  secondsOpen: 6,
  scrolledDown: 30,
  allInSight: false,
  scrolledUp: 0,
  idleSeconds: 0,
  leaving: null,
  clicked: [],
};

/** The rules that keep it from being shown. */
const against = (showing: Partial<Showing>, facts: Partial<ShowingFacts> = {}) =>
  evaluateShowing({ ...PLAIN_SHOWING, ...showing }, { ...FACTS, ...facts })
    .filter(({ holds }) => !holds)
    .map(({ rule }) => rule);

it('is shown when every rule holds', () => expect(against({})).toEqual([]));

describe('triggers', () => {
  it.each<[Trigger, Partial<ShowingFacts>, boolean]>([
    [{ kind: 'after', seconds: 5 }, { secondsOpen: 4.9 }, false],
    [{ kind: 'after', seconds: 5 }, { secondsOpen: 5 }, true],
    [{ kind: 'scroll', percent: 25, direction: 'down' }, { scrolledDown: 24 }, false],
    [{ kind: 'scroll', percent: 25, direction: 'down' }, { scrolledDown: 25 }, true],
    [{ kind: 'scroll', percent: 10, direction: 'up' }, { scrolledDown: 90, scrolledUp: 5 }, false],
    [{ kind: 'scroll', percent: 10, direction: 'up' }, { scrolledUp: 10 }, true],
    [{ kind: 'leaving', sensitivity: 'quick' }, { leaving: 'quick' }, true],
    [{ kind: 'leaving', sensitivity: 'late' }, { leaving: 'quick' }, false],
    [{ kind: 'leaving', sensitivity: 'late' }, { leaving: 'late' }, true],
    [{ kind: 'leaving', sensitivity: 'quick' }, { leaving: null }, false],
    [{ kind: 'idle', seconds: 20 }, { idleSeconds: 19 }, false],
    [{ kind: 'idle', seconds: 20 }, { idleSeconds: 20 }, true],
    [{ kind: 'click', selector: '.offer' }, { clicked: [] }, false],
    [{ kind: 'click', selector: '.offer' }, { clicked: ['.offer'] }, true],
    [{ kind: 'pages', count: 3 }, { pagesSeen: 2 }, false],
    [{ kind: 'pages', count: 3 }, { pagesSeen: 3 }, true],
    [{ kind: 'pages', count: 1 }, { pagesSeen: null }, false],
  ])('%j with %j: %s', (trigger, facts, shown) =>
    expect(against({ triggers: [trigger] }, facts)).toEqual(shown ? [] : ['trigger']),
  );
  it('any one of several is enough, and none never', () => {
    const both: Trigger[] = [
      { kind: 'after', seconds: 60 },
      { kind: 'scroll', percent: 20, direction: 'down' },
    ];
    expect(against({ triggers: both })).toEqual([]);
    expect(against({ triggers: [] })).toEqual(['trigger']);
  });
});

describe('pages', () => {
  it.each([
    ['/blog/*', 'https://hill.example/blog/moon', true],
    ['/blog/*', 'https://hill.example/blog', false],
    ['/', 'https://hill.example/', true],
    ['/', 'https://hill.example/blog', false],
    ['*/moon', 'https://hill.example/blog/moon?x=1', true],
    ['hill.example/*', 'https://hill.example/a', true],
    ['https://hill.example/*', 'http://hill.example/a', false],
    ['/a.b', 'https://hill.example/axb', false],
    ['/A', 'https://hill.example/a', true],
    ['*', 'not an address', false],
  ])('%s and %s: %s', (pattern, address, fits) => expect(fitsPattern(pattern, address)).toBe(fits));
  it('where it may be, and where it may not', () => {
    expect(against({ pages: ['/shop/*'] })).toEqual(['pages']);
    expect(against({ pages: ['/blog/*'], notPages: ['*/moon'] })).toEqual(['pages']);
  });
});

it('says of a page without anything to scroll that there is nothing', () => {
  const [trigger] = evaluateShowing(PLAIN_SHOWING, { ...FACTS, scrolledDown: 100, allInSight: true });
  expect(trigger?.now).toContain('nothing to scroll');
  expect(evaluateShowing(PLAIN_SHOWING, FACTS)[0]?.now).toContain('scrolled 30 %');
});

it.each<[Partial<Showing>, Partial<ShowingFacts>, string[]]>([
  [{ referrers: ['search.example'] }, {}, []],
  [{ referrers: ['arch.example'] }, {}, ['referrer']],
  [{ campaigns: ['autumn'] }, {}, []],
  [{ campaigns: ['spring'] }, {}, ['campaign']],
  [{ visitors: 'new' }, {}, []],
  [{ visitors: 'returning' }, {}, ['visitor']],
  [{ visitors: 'new' }, { returning: null }, ['visitor']],
  [{}, { width: 390 }, ['device']],
  [{ devices: ['phone'] }, { width: 390 }, []],
  [{}, { shownAt: FACTS.now - 59 * 60_000 }, ['again']],
  [{}, { shownAt: FACTS.now - 60 * 60_000 }, []],
  [{}, { closedAt: FACTS.now - 60_000 }, ['closed']],
  [{ closedDays: 0 }, { closedAt: FACTS.now - 60_000 }, []],
  [{}, { sentAt: 1 }, ['sent']],
  [{ notAfterSent: false }, { sentAt: 1 }, []],
])('%j with %j is kept back by %j', (showing, facts, rules) => expect(against(showing, facts)).toEqual(rules));

it.each([
  [390, 'phone'],
  [768, 'tablet'],
  [1280, 'desktop'],
])('%i px is a %s', (width, device) => expect(deviceOf(width)).toBe(device));
