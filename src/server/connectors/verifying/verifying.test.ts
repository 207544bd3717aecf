import { describe, expect, it } from 'vitest';
import { answered } from '../../../../test/world/answers.ts';
import type { ExchangeView } from '../../../contract/deliveries.ts';
import type { Answer } from '../../../core/delivery/index.ts';
import type { Access } from '../access.ts';
import type { OutgoingRequest } from '../http.ts';
import { profileOf } from '../registry.ts';
import { checkBaseUrl, sayTrouble } from './typed.ts';
import { verifyConnection } from './verify.ts';

const NOW = Date.UTC(2026, 2, 1, 12);
type Silence = Extract<Answer, { kind: 'unanswered' }>;
const unanswered = (fault: Silence['fault'], code = ''): Answer => ({ kind: 'unanswered', fault, code });

/** What verifying says when the service answers so, and what it was asked. */
async function verify(answer: Answer, change: Partial<Omit<Access, 'profile'>> & { service?: string } = {}) {
  const { service = 'tern-post', ...access } = change;
  const asked: OutgoingRequest[] = [];
  const send = (outgoing: OutgoingRequest) => {
    asked.push(outgoing);
    return Promise.resolve({ answer, exchange: {} as ExchangeView });
  };
  const { result } = await verifyConnection(
    {
      send: Object.assign(send, { close: () => Promise.resolve() }),
      access: {
        profile: profileOf(service),
        baseUrl: 'https://tern.example',
        credentials: { key: 'tern-0123456789' },
        pool: 'p',
        ...access,
      },
      now: () => NOW,
      record: [],
      dropFolder: '',
      allowPrivate: false,
    },
    false,
  );
  if (result.ok) return { ...result, asked };
  return { ...result, asked, text: sayTrouble(result) };
}

const ACCOUNT = {
  account: { name: 'Pellam Ridge Observatory' },
  key: { permissions: ['catalogue:read', 'members:read', 'members:write'] },
};

describe('verifying asks who we are', () => {
  it('and says whose account it is', async () => {
    const result = await verify(answered(200, ACCOUNT));
    expect(result).toMatchObject({ ok: true, account: 'Pellam Ridge Observatory', at: '2026-03-01T12:00:00.000Z' });
    expect(result.asked.map(({ method, url }) => [method, url])).toEqual([['GET', 'https://tern.example/v1/account']]);
  });

  it('and says which permission a good key lacks', async () => {
    const key = { permissions: ['catalogue:read', 'members:read'] };
    const result = await verify(answered(200, { ...ACCOUNT, key }));
    expect(result).toMatchObject({ ok: false, about: 'key', refused: false });
    expect('text' in result && result.text).toContain('belongs to Pellam Ridge Observatory, but it lacks a permission');
  });
});

describe('what is wrong is said beside the part that is wrong', () => {
  it.each<[string, Answer, string, RegExp]>([
    [
      'a redirect',
      answered(302, {}, { location: 'https://new.example/' }),
      'baseUrl',
      /on to another one: https:\/\/new/,
    ],
    ['a key that is not known', answered(401, { detail: 'Who is this?' }), 'key', /does not know this API key.*Who is/],
    ['a key that is switched off', answered(403, { detail: 'Off.' }), 'key', /knows the API key, but.*switched on/],
    ['a page that is not there', answered(404), 'baseUrl', /has no \/v1\/account/],
    ['too many questions', answered(429), 'service', /go slower.*Wait a minute/],
    ['an outage', answered(503), 'service', /out of order \(503\)/],
    ['a question it does not take', answered(400, { detail: 'No.' }), 'service', /refuses the question \(400\): No\./],
    ['another service', answered(200, { hello: 1 }), 'baseUrl', /not as Tern Post does/],
    ['an answer without end', unanswered('too large'), 'baseUrl', /not as Tern Post does/],
    ['nobody', unanswered('unreachable', 'ECONNREFUSED'), 'baseUrl', /Nothing answers at tern\.example/],
    ['a name that nobody has', unanswered('unreachable', 'ENOTFOUND'), 'baseUrl', /No server is known by the name/],
    ['a certificate', unanswered('certificate', 'CERT_HAS_EXPIRED'), 'baseUrl', /cannot be trusted \(CERT_HAS/],
    ['a private address', unanswered('forbidden address'), 'baseUrl', /private address, which this installation/],
    ['silence', unanswered('time-out'), 'service', /did not answer within/],
    ['a broken connection', unanswered('dropped'), 'service', /broke off the connection/],
  ])('%s', async (_, answer, about, words) => {
    const result = await verify(answer);
    expect(result).toMatchObject({ ok: false, about });
    expect('text' in result && result.text).toMatch(words);
  });

  it('a refusal alone counts as refused: an outage must not hold what waits', async () => {
    expect(await verify(answered(401))).toMatchObject({ refused: true });
    for (const answer of [answered(403), answered(404), answered(503), unanswered('time-out')])
      expect(await verify(answer)).toMatchObject({ refused: false });
  });

  it('a clock that is off is named before the key is suspected', async () => {
    const date = new Date(NOW + 7 * 60_000).toUTCString();
    const result = await verify(answered(401, {}, { date }), {
      service: 'capstan',
      credentials: { key: 'cap-0123456789', secret: 'a secret' },
    });
    expect('text' in result && result.text).toContain('The clocks differ by 7 minutes');
    expect(result.asked).toHaveLength(2);
  });
});

describe('a base URL that may be meant is offered', () => {
  it.each<[string, Answer, string | undefined]>([
    ['https://tern.example/v1', answered(404), 'https://tern.example'],
    ['https://tern.example', answered(404), undefined],
    ['http://tern.example', answered(301, {}, { location: 'https://tern.example/v1/account' }), 'https://tern.example'],
    ['http://tern.example', answered(301, {}, { location: '/mail/v1/account' }), 'http://tern.example/mail'],
    ['http://tern.example', answered(302, {}, { location: 'https://tern.example/sign-in' }), undefined],
    ['https://tern.example:4684', unanswered('certificate', 'EPROTO'), 'http://tern.example:4684'],
  ])('%s', async (baseUrl, answer, instead) => {
    const result = await verify(answer, { baseUrl });
    expect('instead' in result ? result.instead : undefined).toBe(instead);
  });

  it.each([
    ['tern.example/api', 'https://tern.example/api'],
    ['//tern.example', 'https://tern.example'],
    ['127.0.0.1:4684', 'http://127.0.0.1:4684'],
    ['localhost:4684', 'http://localhost:4684'],
    ['10.0.0.7', 'http://10.0.0.7'],
    ['https://someone@tern.example/api?x=1#y', 'https://tern.example/api'],
  ])('for %s, without asking anybody', async (baseUrl, instead) => {
    const result = await verify(answered(200, ACCOUNT), { baseUrl });
    expect(result).toMatchObject({ ok: false, about: 'baseUrl', instead });
    expect(result.asked).toEqual([]);
    expect('text' in result && result.text).toContain(`Perhaps ${instead} is meant.`);
  });

  it('never where the address is the secret: it would be shown', async () => {
    const secret = { service: 'bellbuoy', credentials: {}, baseUrl: 'bell.example/ring/0123456789' };
    const result = await verify(answered(200), secret);
    expect('text' in result && result.text).toBe(
      'The address has no scheme: it does not start with https://. Put https:// before it.',
    );
  });

  it('where the address is the secret a query may be part of it', async () => {
    const webhook = 'https://take.example/in?key=of-the-address';
    const secret = `whsec_${Buffer.from('0123456789abcdef').toString('base64')}`;
    expect(
      await verify(answered(200, ''), { service: 'signed-webhook', baseUrl: webhook, credentials: { secret } }),
    ).toMatchObject({
      ok: true,
    });
    const baseUrl = 'https://bell.example/ring/0123456789?room=7';
    const result = await verify(answered(200, 'the front desk'), { service: 'bellbuoy', credentials: {}, baseUrl });
    expect(result).toMatchObject({ ok: true, account: 'the front desk' });
    expect(result.asked.map(({ url, secret }) => [url, secret.path])).toEqual([[baseUrl, true]]);
    expect(await verify(answered(200, ACCOUNT), { baseUrl: 'https://tern.example?room=7' })).toMatchObject({
      ok: false,
    });
  });

  it.each(['https://tern.example', 'https://tern.example/api/', 'http://127.0.0.1:4684'])('not for %s', (url) =>
    expect(checkBaseUrl(url)).toBeNull(),
  );
  it.each(['ftp://tern.example', 'https://'])('nor for %s, which is wrong in another way', (url) => {
    expect(checkBaseUrl(url)).toMatchObject({ about: 'baseUrl' });
    expect(checkBaseUrl(url)).not.toHaveProperty('instead');
  });
});

describe('what was copied badly is named when it is refused, and never shown', () => {
  it.each([
    ['"tern-0123456789"', 'has quotation marks around it'],
    ['“tern-0123456789”', 'has quotation marks around it'],
    ['Bearer tern-0123456789', 'begins with the word that goes before it'],
    ['X-Tern-Key: tern-0123456789', 'has its name before it'],
    ['tern-0123 456789', 'has a blank or a line break'],
    ['tern-0123\n456789', 'has a blank or a line break'],
    ['tern-••••6789', 'is shortened'],
    ['tern-0123...', 'is shortened'],
  ])('%s', async (key, words) => {
    const result = await verify(answered(401), { credentials: { key } });
    expect('text' in result && result.text).toContain(`The API key ${words}`);
    expect('text' in result && result.text).not.toContain('6789');
  });

  it.each(['tern-0123456789', 'a"b', "it's", 'x=y', 'Zm9v:YmFy=='])('%s is not suspected', async (key) => {
    const result = await verify(answered(401), { credentials: { key } });
    expect('text' in result && result.text).toContain('Copy the API key again');
  });

  it('nothing is asked while one is missing', async () => {
    const result = await verify(answered(200, ACCOUNT), { credentials: {} });
    expect(result).toMatchObject({ ok: false, about: 'key', problem: 'There is no API key yet.' });
    expect(result.asked).toEqual([]);
  });
});
