import { describe, expect, it } from 'vitest';
import { golden } from '../../../test/world/golden.ts';
import { readSource } from '../intake/index.ts';
import { addressFieldOf, addressOf, readIntent, readPlan, readRoute, type Intent } from './index.ts';

/** What is read today of a document that an earlier version wrote: every format ever written has a file in test/golden. */
const READERS = {
  route: readRoute,
  plan: readPlan,
  intent: readIntent,
  source: readSource,
  posts: readSource,
  shop: readSource,
  registration: readSource,
  chat: readSource,
};

describe.each(Object.entries(READERS))('a %s', (what, read) => {
  it.each(golden(what))('of format %i reads as the same one of today', (_, document) => {
    const first = read(document);
    if (!first.ok) throw new Error(first.issue.detail);
    // The files hold one document, as each format writes it; the last one is as it is written today.
    expect(first.value).toEqual(golden(what).at(-1)?.[1]);
    // What was written and is read again is the same text.
    const again = read(JSON.parse(JSON.stringify(first.value)));
    expect(JSON.stringify(again.ok && again.value)).toBe(JSON.stringify(first.value));
  });

  it.each([
    [{ format: 99 }, '/format'],
    [{ format: '2' }, '/format'],
    [{ format: 0 }, '/format'],
    [[], ''],
    [null, ''],
    ['text', ''],
  ])('is refused when it is %j, with the place', (document, pointer) =>
    expect(read(document)).toMatchObject({ ok: false, issue: { pointer } }),
  );
});

it('an intent of format 1 names whom it is about, and the field that the address goes to', () => {
  const read = readIntent({ email: 'a@b.example', fields: { note: 'A@b.example!', mail: 'A@B.example' } });
  const intent = read.ok ? read.value : ({} as Intent);
  expect([addressOf(intent), addressFieldOf(intent)]).toEqual(['a@b.example', 'mail']);
});
