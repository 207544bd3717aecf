/** Names of others are looked up in it: it has none of its own but these. */
const MEANINGS = new Map(
  Object.entries({
    email: 'email',
    emailaddress: 'email',
    name: 'full_name',
    yourname: 'full_name',
    fullname: 'full_name',
    firstname: 'first_name',
    givenname: 'first_name',
    lastname: 'last_name',
    surname: 'last_name',
    familyname: 'last_name',
    phone: 'phone',
    telephone: 'phone',
    mobile: 'phone',
  }),
);

/** A field name made of a label: small letters, digits and underscores, not taken yet. */
export function keyFor(label: string, taken: string[]): string {
  const words = label
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 40);
  const base = words === '' ? 'field' : words;
  let key = base;
  for (let number = 2; taken.includes(key); number += 1) key = `${base}_${number}`;
  return key;
}

/** What a label means for the contact; '' when it is nothing in particular. */
export const meaningOf = (label: string): string => MEANINGS.get(label.toLowerCase().replace(/[^a-z]/g, '')) ?? '';
