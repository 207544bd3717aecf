import type { FieldType, SourceField } from '../../../core/values/index.ts';

/** What a contact's values are called when they mean the same everywhere. */
export const KEEP_AS: [value: string, label: string][] = [
  ['', 'not kept'],
  ['email', 'email'],
  ['full_name', 'full name'],
  ['first_name', 'first name'],
  ['last_name', 'last name'],
];

const MEANINGS: Record<string, string> = {
  email: 'email',
  name: 'full_name',
  yourname: 'full_name',
  fullname: 'full_name',
  firstname: 'first_name',
  lastname: 'last_name',
  surname: 'last_name',
};

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
const meaningOf = (label: string): string => MEANINGS[label.toLowerCase().replace(/[^a-z]/g, '')] ?? '';

const FIRST_LABELS: Record<FieldType, string[]> = {
  text: ['Your name', 'Your question'],
  email: ['Email', 'Another email'],
  choice: ['What do you like best?'],
  tick: ['I agree'],
  hidden: ['Page'],
  'long text': ['Your message'],
  phone: ['Phone'],
  number: ['How many?'],
  money: ['Budget'],
  date: ['Date'],
  time: ['Time'],
  'date-time': ['When?'],
  country: ['Country'],
  language: ['Language'],
  URL: ['Web site'],
  'person name': ['Your name'],
  'postal address': ['Address'],
};

/** Adds a field of a type, named so that it can be used as it is. */
export function addField(fields: SourceField[], type: FieldType): SourceField[] {
  const labels = FIRST_LABELS[type];
  const label = labels.find((text) => !fields.some((field) => field.label === text)) ?? labels.at(-1) ?? '';
  const meaning = meaningOf(label);
  const field: SourceField = {
    key: keyFor(
      label,
      fields.map(({ key }) => key),
    ),
    label,
    type,
    required: type === 'email',
    options: type === 'choice' ? ['First answer', 'Second answer'] : [],
    several: false,
    help: '',
    preset: '',
    keepAs: fields.some(({ keepAs }) => keepAs === meaning) ? '' : meaning,
  };
  return [...fields, field];
}

/**
 * Changes a field. Its name, and what it is kept as, follow its label until they are set by hand; a name that is live
 * stays, since pages out there use it.
 */
export function changeField(
  fields: SourceField[],
  index: number,
  part: Partial<SourceField>,
  liveKeys: string[],
): SourceField[] {
  const others = fields.filter((_, at) => at !== index).map(({ key }) => key);
  return fields.map((field, at) => {
    if (at !== index) return field;
    if (part.label === undefined) return { ...field, ...part };
    const follows = !liveKeys.includes(field.key) && field.key === keyFor(field.label, others);
    return {
      ...field,
      ...part,
      key: follows ? keyFor(part.label, others) : field.key,
      keepAs: field.keepAs === meaningOf(field.label) ? meaningOf(part.label) : field.keepAs,
    };
  });
}

export const removeField = (fields: SourceField[], index: number): SourceField[] =>
  fields.filter((_, at) => at !== index);

/** Moves a field one place up (-1) or down (1); at the ends nothing moves. */
export function moveField(fields: SourceField[], index: number, by: 1 | -1): SourceField[] {
  const [from, to] = [fields[index], fields[index + by]];
  if (!from || !to) return fields;
  return fields.map((field, at) => (at === index ? to : at === index + by ? from : field));
}
