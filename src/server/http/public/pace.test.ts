import { describe, expect, it } from 'vitest';
import { namesOf } from '../visitor.ts';
import { Pace } from './pace.ts';

describe('how often something may be done', () => {
  it('is counted for each address, and tells after how many seconds it may be done again', async () => {
    const pace = new Pace(2);
    expect([await pace.wait('192.0.2.1'), await pace.wait('192.0.2.1')]).toEqual([null, null]);
    const wait = await pace.wait('192.0.2.1');
    expect(wait).toBeGreaterThan(0);
    expect(wait).toBeLessThanOrEqual(60);
    expect(await pace.wait('192.0.2.2')).toBeNull();
  });
  it('is counted for a network as well, so that many addresses of one are no way around it', async () => {
    const pace = new Pace(1);
    const taken = [];
    for (let host = 0; host < 25; host += 1) taken.push(await pace.wait(`192.0.2.${host}`));
    expect(taken.filter((wait) => wait === null)).toHaveLength(20);
    expect(await pace.wait('198.51.100.1')).toBeNull();
  });
  // Addresses of documentation: RFC 5737 and RFC 3849. What an IPv4-mapped address is: RFC 4291, 2.5.5.2.
  it.each([
    ['2001:db8:1:2::3', '2001:db8:1:2:ffff::9', true],
    ['2001:db8:1:2::3', '2001:db8:1:3::3', false],
    ['192.0.2.1', '::ffff:192.0.2.1', true],
    ['192.0.2.1', '192.0.2.2', false],
    ['', '', true],
  ])('%s and %s are of one visitor: %s', (one, other, same) =>
    expect(namesOf(one).own === namesOf(other).own).toBe(same),
  );
  it('of one network are those that a provider gives out together', () => {
    expect(namesOf('2001:db8:1:2::3').network).toBe(namesOf('2001:db8:1:9::3').network);
    expect(namesOf('192.0.2.1').network).toBe(namesOf('192.0.2.200').network);
    expect(namesOf('192.0.2.1').network).not.toBe(namesOf('192.0.3.1').network);
  });
});
