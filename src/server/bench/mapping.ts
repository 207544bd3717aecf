import { applyMapping } from '../../core/mapping/index.ts';
import { compare, perSecond, type Comparison } from './compare.ts';
import { WIDE_DESTINATION, WIDE_LINES, WIDE_SOURCE, wideByHand, wideVisitor } from './wideMapping.ts';

const COUNT = 100_000;
const ROUNDS = 7;

/** A mapping of 25 lines applied to a submission, against a function written for it by hand that sends the same. */
export async function benchMapping(): Promise<Comparison> {
  // The sums keep the work from being optimised away.
  let sink = 0;
  const apply = (index: number) =>
    applyMapping(WIDE_DESTINATION, WIDE_LINES, { values: wideVisitor(index), fields: WIDE_SOURCE, now: 0 }).length;
  const byHand = (index: number) => (wideByHand(wideVisitor(index)) ? 1 : 0);
  const comparison = await compare('a second', ROUNDS, {
    iwashi: () => perSecond(COUNT, 1, (index) => Promise.resolve(void (sink += apply(index)))),
    reference: () => perSecond(COUNT, 1, (index) => Promise.resolve(void (sink += byHand(index)))),
  });
  if (sink === 0) throw new Error('nothing was mapped');
  return comparison;
}
