import { expect, it } from 'vitest';
import { consentState, type ConsentEvent, type ConsentEventKind } from './index.ts';

const events = (...kinds: ConsentEventKind[]): ConsentEvent[] => kinds.map((kind, index) => ({ kind, at: index }));

it.each<[ConsentEventKind[], string]>([
  [[], 'none'],
  [['asked'], 'asked'],
  [['given'], 'given'],
  [['given', 'asked'], 'given'],
  [['given', 'asked', 'confirmed'], 'confirmed'],
  [['given', 'asked', 'expired'], 'none'],
  [['confirmed', 'given'], 'confirmed'],
  [['confirmed', 'withdrawn'], 'withdrawn'],
  [['withdrawn', 'given'], 'given'],
  [['withdrawn', 'asked'], 'withdrawn'],
  [['withdrawn', 'given', 'asked', 'expired'], 'withdrawn'],
  [['withdrawn', 'given', 'asked', 'confirmed'], 'confirmed'],
  [['confirmed', 'expired'], 'confirmed'],
  [['refused', 'expired'], 'refused'],
  [['not given'], 'none'],
  [['given', 'asked', 'confirmed', 'not given'], 'confirmed'],
  [['given', 'not given'], 'given'],
  [['withdrawn', 'not given'], 'withdrawn'],
])('%j add up to %s', (kinds, state) => expect(consentState(events(...kinds))).toBe(state));

it('does not depend on the order of arrival', () => {
  const history = events('given', 'asked', 'confirmed', 'withdrawn', 'given');
  for (let turn = 0; turn < history.length; turn += 1) {
    const turned = [...history.slice(turn), ...history.slice(0, turn)];
    expect(consentState(turned)).toBe(consentState(history));
    expect(consentState(turned.reverse())).toBe(consentState(history));
  }
});

it('gives the strictest the last word when two happen at once', () => {
  expect(
    consentState([
      { kind: 'withdrawn', at: 5 },
      { kind: 'given', at: 5 },
    ]),
  ).toBe('withdrawn');
});
