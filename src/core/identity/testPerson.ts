import type { FieldValue, FieldValues, SourceField } from '../values/index.ts';
import { identifyingFields } from './keys.ts';

/** Names under which a test person goes, so that whoever meets them there knows. */
const NAMES: Record<string, string> = { first_name: 'Iwashi', last_name: 'Test', full_name: 'Iwashi Test' };

/**
 * A test person made of a sample: everything that identifies somebody, and their names, is put in another's place, and every box is
 * ticked, so that all happens that can. What else the sample says stays.
 * @param mark of small letters and digits; it tells this test person from every other
 * @param address the operator's own, which the mark is put into (RFC 5233 calls it a detail); '' for one at a name that is reserved
 */
export function testPerson(fields: SourceField[], sample: FieldValues, mark: string, address = ''): FieldValues {
  const identifying = new Set(identifyingFields(fields));
  return Object.fromEntries(
    fields.flatMap((field): [string, FieldValue][] => {
      const value = sample[field.id];
      if (identifying.has(field)) return [[field.id, keyFor(field, mark, address)]];
      // Somebody else's address or number is nobody's business in a test.
      if (value !== undefined && value !== '' && (field.type === 'email' || field.type === 'phone'))
        return [[field.id, keyFor(field, `${mark}o`, address)]];
      if (field.type === 'person name') return [[field.id, { given: 'Iwashi', family: 'Test' }]];
      const name = NAMES[field.keepAs];
      if (name !== undefined && field.type === 'text') return [[field.id, name]];
      if (field.type === 'yes/no') return [[field.id, true]];
      return value === undefined ? [] : [[field.id, value]];
    }),
  );
}

function keyFor({ type }: SourceField, mark: string, address: string): string {
  if (type === 'email') return addressFor(mark, address);
  if (type !== 'phone') return `iwashi-test-${mark}`;
  // Numbers that Ofcom keeps for plays: 01632 960000 to 960999 (from memory).
  const sum = Array.from(mark).reduce((total, sign) => (total * 31 + (sign.codePointAt(0) ?? 0)) % 1000, 7);
  return `+441632960${String(sum).padStart(3, '0')}`;
}

function addressFor(mark: string, address: string): string {
  const at = address.lastIndexOf('@');
  return at < 1
    ? `iwashi-test-${mark}@trial.example`
    : `${address.slice(0, at).replace(/\+.*$/, '')}+iwashi-${mark}${address.slice(at)}`;
}
