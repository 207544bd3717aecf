import { describe, expect, it } from 'vitest';
import { deliveryWord, howItIsKnown, sentInWords } from './arrival.ts';
import { DELIVERY_STATES } from './transition.ts';

type Ended = Parameters<typeof deliveryWord>[0];
const row = { what: 'Email', meant: 'mara@hill.example', found: 'mara@hill.example', same: true };
const ended = (more: Partial<Ended>): Ended => ({ state: 'delivered', provedBy: null, readBack: null, ...more });

describe('a delivery is called delivered', () => {
  it.each<[why: string, how: Ended, word: string, known: string | null]>([
    ['where a look showed it', ended({ provedBy: 'look', readBack: [row] }), 'delivered', null],
    ['where its answer showed it', ended({ provedBy: 'answer', readBack: [row] }), 'delivered', null],
    ['where a look found nothing left to do', ended({ provedBy: 'look', readBack: [] }), 'delivered', 'looked for'],
    ['where a person saw it', ended({ provedBy: 'person', readBack: [] }), 'delivered', 'Somebody looked there'],
    ['where it was read back before that was noted', ended({ readBack: [row] }), 'delivered', null],
    ['not where nobody can look', ended({ readBack: [] }), 'accepted', 'Nobody can look from here'],
    ['not where nothing was read back', ended({}), 'accepted', 'Nobody can look from here'],
  ])('%s', (_, how, word, known) => {
    expect(deliveryWord(how)).toBe(word);
    if (known === null) expect(howItIsKnown(how)).toBeNull();
    else expect(howItIsKnown(how)).toContain(known);
  });

  it.each(DELIVERY_STATES.filter((state) => state !== 'delivered'))(
    'not while it is %s, whatever was seen',
    (state) => {
      const proved = ended({ state, provedBy: 'look', readBack: [row] });
      expect([deliveryWord(proved), howItIsKnown(proved)]).toEqual([state, null]);
    },
  );
});

describe('"nothing was sent" is said', () => {
  it('where a try sent nothing', () => expect(sentInWords([])).toBe('Nothing was sent.'));
  it('not where something was', () => expect(sentInWords([{ method: 'POST' }])).toBeNull());
  it('not where nobody knows any more', () => {
    expect(sentInWords(null)).toContain('not kept any more');
    expect(sentInWords(null)).not.toContain('Nothing was sent');
  });
});
