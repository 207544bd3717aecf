import { expect, it } from 'vitest';
import { applyMapping } from '../../core/mapping/index.ts';
import { WIDE_DESTINATION, WIDE_LINES, WIDE_SOURCE, wideByHand, wideVisitor } from './wideMapping.ts';

const byMapping = (index: number) =>
  Object.fromEntries(
    applyMapping(WIDE_DESTINATION, WIDE_LINES, { values: wideVisitor(index), fields: WIDE_SOURCE, now: 0 }).flatMap(
      ({ field, verdict }) => (verdict.kind === 'sent' ? [[field.key, verdict.value]] : []),
    ),
  );

it('the mapping that is measured and the function that it is measured against send the same', () => {
  expect(WIDE_LINES).toHaveLength(25);
  for (let index = 0; index < 840; index += 1) expect(byMapping(index)).toEqual(wideByHand(wideVisitor(index)));
});
