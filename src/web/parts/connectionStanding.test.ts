import { describe, expect, it } from 'vitest';
import type { ConnectionView } from '../../contract/connection.ts';
import { connectionStanding, lookedAtWord } from './connectionStanding.ts';

type Standing = Parameters<typeof connectionStanding>[0];
const AT = '2026-05-01T00:00:00.000Z';
const good = { ok: true as const, account: 'Ridge', lists: 1, groups: 0, tags: 0, fields: 2, kinds: 0, at: AT };
const active = (more: Partial<Standing>): Standing => ({
  state: 'active',
  verify: good,
  failures: 0,
  lastSuccessAt: null,
  ...more,
});
const untried = { ...good, untried: 'Nothing can be asked there.' };
const refused: ConnectionView['verify'] = {
  ok: false,
  about: 'service',
  refused: true,
  problem: 'No.',
  nextStep: '',
  at: AT,
};

describe('a connection is called connected', () => {
  it.each<[why: string, standing: Standing, word: string]>([
    ['when it was asked and answered', active({}), 'connected'],
    ['when something arrived where nothing can be asked', active({ verify: untried, lastSuccessAt: AT }), 'connected'],
    ['not where nothing was asked and nothing arrived', active({ verify: untried }), 'not tried'],
    ['not when it was never looked at', active({ verify: null }), 'not working'],
    ['not when the last look failed', active({ verify: refused }), 'not working'],
    ['not while one delivery after the other fails', active({ failures: 3 }), 'failing'],
    ['not while it is paused', active({ state: 'paused' }), 'paused'],
    ['not when its credentials are refused', active({ state: 'refused' }), 'credentials refused'],
    ['not before access is granted', active({ state: 'ungranted' }), 'access not granted yet'],
  ])('%s', (_, standing, word) => expect(connectionStanding(standing)).toBe(word));
});

describe('a connection is said to be verified', () => {
  it.each<[why: string, verify: ConnectionView['verify'], word: string]>([
    ['when its service was asked, and answered', good, 'verified'],
    ['not when nothing can be asked there', untried, 'looked at'],
    ['not when the answer was no', refused, 'looked at'],
    ['not when nobody looked', null, 'looked at'],
  ])('%s', (_, verify, word) => expect(lookedAtWord(verify)).toBe(word));
});
