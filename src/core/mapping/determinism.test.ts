import fc from 'fast-check';
import { expect, it } from 'vitest';
import { edgeSamples } from '../intake/index.ts';
import { plainField, TYPE_NAMES } from '../values/index.ts';
import { applyMapping, chainOf, offersAfter, plainLine, type DestinationField } from './index.ts';

const fields = TYPE_NAMES.map((type) => ({ ...plainField(type.replace(/[^a-z]/gi, ''), type), options: ['a', 'b'] }));
const there: DestinationField[] = TYPE_NAMES.map((type) => ({
  key: `to ${type}`,
  label: type,
  type,
  required: false,
  choices: type === 'choice' || type === 'several choices' ? ['a', 'b'] : [],
  maxLength: 200,
}));

/** A line from any field to any other, by up to three steps that can follow on one another. */
const line = fc
  .tuple(fc.constantFrom(...fields), fc.constantFrom(...there), fc.array(fc.nat(), { maxLength: 3 }))
  .map(([from, to, picks]) => {
    const steps = picks.reduce<ReturnType<typeof chainOf>>((chain, pick) => {
      const offers = offersAfter(from.type, chain);
      const offer = offers[pick % Math.max(1, offers.length)];
      return offer ? chainOf(...chain, { kind: offer.kind, options: offer.options }) : chain;
    }, []);
    return plainLine({ id: 'l', to: to.key, from: { kind: 'field', field: from.id }, steps });
  });

it('applying any line to any sample throws nothing, and gives the same twice', () =>
  fc.assert(
    fc.property(line, fc.constantFrom(...edgeSamples(fields, true)), fc.nat(2_000_000_000_000), (one, sample, now) => {
      const facts = { values: sample.values, now, fields };
      const once = applyMapping(there, [one], facts);
      const twice = applyMapping(there, [structuredClone(one)], { ...facts, values: structuredClone(sample.values) });
      expect(twice.map(({ verdict }) => verdict)).toEqual(once.map(({ verdict }) => verdict));
    }),
    { numRuns: 400 },
  ));
