import { expect, it } from 'vitest';
import { likelyAddress } from './mistyped.ts';

it.each([
  ['ada@hill.con', 'ada@hill.com'],
  ['ada@hill,org', 'ada@hill.org'],
  ['ada@hill..example', 'ada@hill.example'],
  ['ada@hill.example.', 'ada@hill.example'],
  ['ada@hill.CMO', 'ada@hill.com'],
  ['ada@ hill.net', 'ada@hill.net'],
])('%s was most likely meant as %s', (typed, meant) => expect(likelyAddress(typed)).toBe(meant));
it.each(['ada@hill.example', 'ada@hill.com', 'ada@hill.co', 'ada', 'ada@', '@hill.con', 'a@b@c.con', 'ada@con', ''])(
  'nothing is guessed of %j',
  (typed) => expect(likelyAddress(typed)).toBeNull(),
);
