import { createHmac } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { Webhooks } from '../../contract/profile/index.ts';
import { isGenuine } from './inboundEvents.ts';
import { profileOf } from './registry.ts';

const webhooks = profileOf('tern-post').webhooks as Webhooks;
const NOW = Date.UTC(2026, 10, 25);
const body = '{"events":[]}';

function signed(more: { time?: number; secret?: string; body?: string } = {}) {
  const time = String(more.time ?? NOW / 1000);
  const signature = createHmac('sha256', more.secret ?? 'shared')
    .update(`${time}:${more.body ?? body}`)
    .digest('hex');
  const headers: Record<string, string> = { 'Tern-Time': time, 'Tern-Signature': signature };
  return { header: (name: string) => headers[name] ?? '', body, secret: 'shared', now: NOW };
}

describe('a request that claims to come from a service', () => {
  it('is genuine when it is signed with our secret, and fresh', () => {
    expect(isGenuine(webhooks, signed())).toBe(true);
    expect(isGenuine(webhooks, signed({ time: NOW / 1000 - 240 }))).toBe(true);
  });
  it.each([
    ['signed with another secret', signed({ secret: 'other' })],
    ['signed over another body', signed({ body: '{}' })],
    ['kept by somebody, and sent again later', signed({ time: NOW / 1000 - 301 })],
    ['of a time to come', signed({ time: NOW / 1000 + 301 })],
    ['of no time', { ...signed(), header: (name: string) => (name === 'Tern-Time' ? '' : signed().header(name)) }],
    [
      'without a signature',
      { ...signed(), header: (name: string) => (name === 'Tern-Time' ? String(NOW / 1000) : '') },
    ],
  ])('is not when it is %s', (_, request) => expect(isGenuine(webhooks, request)).toBe(false));

  it('is genuine in the other ways of writing that profiles know', () => {
    const other: Webhooks = {
      ...webhooks,
      signature: { header: 'X-Sig', prefix: 'v1=', hash: 'sha512', encoding: 'base64', canonical: '{body}' },
    };
    const value = `v1=${createHmac('sha512', 'shared').update(body).digest('base64')}`;
    expect(isGenuine(other, { header: () => value, body, secret: 'shared', now: NOW })).toBe(true);
    expect(isGenuine(other, { header: () => value.slice(3), body, secret: 'shared', now: NOW })).toBe(false);
  });
});
