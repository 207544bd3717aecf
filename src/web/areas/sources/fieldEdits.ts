import { keyFor, meaningOf } from '../../../core/intake/index.ts';
import { plainField, widgetsOf, type SourceField, type TypeName } from '../../../core/values/index.ts';

/** What a contact's values are called when they mean the same everywhere. */
export const KEEP_AS: [value: string, label: string][] = [
  ['', 'not stored on the contact'],
  ['email', 'email'],
  ['phone', 'phone'],
  ['id', 'their id there'],
  ['full_name', 'full name'],
  ['first_name', 'first name'],
  ['last_name', 'last name'],
];

const FIRST_LABELS: Record<TypeName, string[]> = {
  text: ['Your name', 'Your question'],
  email: ['Email', 'Another email'],
  choice: ['What do you like best?'],
  'several choices': ['What do you like?'],
  'yes/no': ['I agree'],
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
  membership: ['Membership'],
  file: ['File'],
  'list of records': ['Who comes along?'],
};

const FIRST_OPTIONS: Partial<Record<TypeName, string[]>> = {
  choice: ['First answer', 'Second answer'],
  'several choices': ['First answer', 'Second answer'],
  'list of records': ['Name', 'Age'],
};

/** Adds a field of a type, named so that it can be used as it is. */
export function addField(fields: SourceField[], type: TypeName, more: Partial<SourceField> = {}): SourceField[] {
  const labels = FIRST_LABELS[type];
  const label =
    more.label ?? labels.find((text) => !fields.some((field) => field.label === text)) ?? labels.at(-1) ?? '';
  const meaning = meaningOf(label);
  const key = keyFor(
    label,
    fields.map((field) => field.key),
  );
  const field: SourceField = {
    ...plainField(key, type),
    id: idFor(key, fields),
    label,
    required: type === 'email',
    options: FIRST_OPTIONS[type] ?? [],
    keepAs: fields.some(({ keepAs }) => keepAs === meaning) ? '' : meaning,
    ...more,
  };
  return [...fields, field];
}

/** An id that no field has: the name, as long as it is free. */
function idFor(key: string, others: SourceField[]): string {
  const taken = new Set(others.map(({ id }) => id));
  let id = key;
  for (let number = 2; taken.has(id); number += 1) id = `${key}_${number}`;
  return id;
}

/**
 * Changes a field. Its name, and what it is kept as, follow its label until they are set by hand, and its id follows its
 * name; once they are live they stay, since pages out there use the name, and values are kept under the id.
 */
export function changeField(
  fields: SourceField[],
  index: number,
  part: Partial<SourceField>,
  liveIds: string[],
): SourceField[] {
  const others = fields.filter((_, at) => at !== index);
  const otherKeys = others.map(({ key }) => key);
  return fields.map((field, at) => {
    if (at !== index) return field;
    const isLive = liveIds.includes(field.id);
    const next = { ...field, ...part };
    if (part.label !== undefined) {
      if (!isLive && field.key === keyFor(field.label, otherKeys)) next.key = keyFor(part.label, otherKeys);
      // What a person is known by is never lost by other words: it follows a label that says something, and not once it is live.
      const meaning = meaningOf(part.label);
      if (!isLive && meaning !== '' && field.keepAs === meaningOf(field.label)) next.keepAs = meaning;
    }
    if (part.type !== undefined) {
      if (!widgetsOf(part.type).includes(next.widget)) next.widget = 'usual';
      if (next.options.length === 0) next.options = FIRST_OPTIONS[part.type] ?? [];
    }
    return isLive || next.key === '' ? next : { ...next, id: idFor(next.key, others) };
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
