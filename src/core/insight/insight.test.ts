import { describe, expect, it } from 'vitest';
import { cameBy, hostOf, silenceOf } from './index.ts';

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
