import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { consentState, isEchoOf, type ConsentEvent, type ConsentEventKind } from './index.ts';

const events = (...kinds: ConsentEventKind[]): ConsentEvent[] => kinds.map((kind, index) => ({ kind, at: index }));

it.each<[ConsentEventKind[], string]>([
  [[], 'none'],
  [['asked'], 'asked'],
  [['given'], 'given'],
  [['given', 'asked'], 'waiting'],
  [['asked', 'given'], 'given'],
  [['given', 'asked', 'given'], 'waiting'],
  [['withdrawn', 'given', 'asked'], 'waiting'],
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

describe('a confirmation belongs to its sign-up', () => {
  const signedUp = (at: number): ConsentEvent[] => [
    { kind: 'given', at },
    { kind: 'asked', at: at + 1 },
  ];
  it.each<[string, ConsentEvent[], string]>([
    [
      'of a sign-up from before a withdrawal',
      [...signedUp(0), { kind: 'withdrawn', at: 5 }, { kind: 'confirmed', at: 9, answers: 1 }],
      'withdrawn',
    ],
    [
      'of one from before, while another one waits',
      [...signedUp(0), { kind: 'withdrawn', at: 5 }, ...signedUp(6), { kind: 'confirmed', at: 9, answers: 1 }],
      'waiting',
    ],
    [
      'of the sign-up after it',
      [...signedUp(0), { kind: 'withdrawn', at: 5 }, ...signedUp(6), { kind: 'confirmed', at: 9, answers: 7 }],
      'confirmed',
    ],
    [
      'with a late yes of between two withdrawals',
      [
        { kind: 'withdrawn', at: 1 },
        { kind: 'given', at: 2 },
        { kind: 'withdrawn', at: 3 },
      ],
      'withdrawn',
    ],
  ])('%s', (_, history, state) => expect(consentState(history)).toBe(state));

  // 2,000 interleavings; 100,000 were run by hand.
  it('never makes consent of what was withdrawn later, in whatever order it is told', () => {
    const kinds: ConsentEventKind[] = ['asked', 'given', 'not given', 'confirmed', 'refused', 'expired'];
    const event = fc.record({
      kind: fc.constantFrom(...kinds),
      at: fc.integer({ min: 0, max: 99 }),
      answers: fc.option(fc.integer({ min: 0, max: 99 })),
    });
    fc.assert(
      fc.property(fc.array(event, { maxLength: 12 }), fc.func(fc.integer()), (history, order) => {
        const last = { kind: 'withdrawn' as const, at: 100 };
        const late = { kind: 'confirmed' as const, at: 101, answers: 50 };
        const told = [...history, last, late].sort((one, other) => order(one) - order(other));
        expect(consentState(told)).toBe('withdrawn');
        expect(consentState([...told].reverse())).toBe('withdrawn');
      }),
      { numRuns: 2_000 },
    );
  });
});

it('gives the strictest the last word when two happen at once', () => {
  expect(
    consentState([
      { kind: 'withdrawn', at: 5 },
      { kind: 'given', at: 5 },
    ]),
  ).toBe('withdrawn');
});

describe('a withdrawal that is told again', () => {
  const need = { purpose: 'letter', channel: 'email' as const };
  const at = (kind: ConsentEventKind, seconds: number) => ({ ...need, kind, at: seconds * 1_000 });
  it('is the echo of the first within two minutes, of the same purpose and channel', () => {
    expect(isEchoOf([at('withdrawn', 0)], need, 119_000)).toBe(true);
    expect(isEchoOf([at('withdrawn', 0)], need, 121_000)).toBe(false);
    expect(isEchoOf([at('withdrawn', 0)], { ...need, channel: 'sms' }, 1_000)).toBe(false);
  });
  it('is none where they said yes in between', () => {
    for (const yes of ['given', 'confirmed'] as const)
      expect(isEchoOf([at('withdrawn', 0), at(yes, 30)], need, 60_000)).toBe(false);
    expect(isEchoOf([at('withdrawn', 0), at('not given', 30)], need, 60_000)).toBe(true);
    // What they said after it takes nothing from the echo.
    expect(isEchoOf([at('withdrawn', 0), at('given', 90)], need, 60_000)).toBe(true);
  });
});
