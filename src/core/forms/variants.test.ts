import fc from 'fast-check';
import { expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { faceOf, intoVariant, pickVariant, withVariant, type FormVariant } from './index.ts';

const fields = [sourceField('email', 'email'), sourceField('town')];
const base = formOf(fields, { title: 'Base', button: 'Go', origins: ['https://a.example'] });
const variants: FormVariant[] = [
  { id: 'a', name: 'A', share: 70, face: null, nothing: false },
  {
    id: 'b',
    name: 'B',
    share: 30,
    face: { ...faceOf(base), title: 'Other', fields: fields.slice(0, 1) },
    nothing: false,
  },
];
const form = { ...base, variants };

it('a form is itself, or as one of its variants says it', () => {
  expect(withVariant(form, 'a')).toBe(form);
  expect(withVariant(form, 'gone')).toBe(form);
  expect(withVariant(form, 'b')).toMatchObject({ title: 'Other', fields: fields.slice(0, 1), origins: base.origins });
});
it("what is changed while a variant is worked on is the variant's, where variants say it themselves", () => {
  const changed = { ...withVariant(form, 'b'), button: 'Now', origins: [] };
  const after = intoVariant(form, 'b', changed, faceOf);
  expect(after).toMatchObject({ title: 'Base', button: 'Go', origins: [], fields });
  expect(withVariant(after, 'b')).toMatchObject({ title: 'Other', button: 'Now' });
});
it('they fall to as many as their shares say', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }), (chance) => {
      expect(pickVariant(variants, chance)).toBe(chance * 100 < 70 ? 'a' : 'b');
    }),
  );
  expect(pickVariant([], 0.5)).toBe('');
});
