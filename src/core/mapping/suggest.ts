import type { SourceField } from '../values/index.ts';
import type { DestinationField } from './destination.ts';
import { plainLine, type MapLine } from './mapping.ts';
import { chainOf, type ToldStep } from './steps/index.ts';
import { READY } from './steps/ready.ts';

/** Names that practitioners use for one thing; each row is one meaning. */
const SAME_MEANING = [
  ['email', 'mail', 'emailaddress', 'youremail'],
  ['firstname', 'givenname', 'forename'],
  ['lastname', 'surname', 'familyname'],
  ['name', 'fullname', 'yourname'],
  ['phone', 'telephone', 'mobile', 'tel'],
  ['source', 'signupsource', 'signupfrom', 'origin', 'page'],
  ['interest', 'interests', 'topics'],
  ['postcode', 'zip', 'zipcode', 'postalcode'],
];

/** Proposes a line for each destination field whose name or meaning a source field shares; never for one already mapped. */
export function suggestLines(source: SourceField[], fields: DestinationField[], existing: MapLine[]): MapLine[] {
  const done = new Set(existing.map((line) => line.to));
  return fields
    .filter((field) => !field.ours && !done.has(field.key))
    .flatMap((field) => suggestLine(source, field) ?? []);
}

function suggestLine(source: SourceField[], field: DestinationField): MapLine | null {
  const line = (origin: SourceField, ...steps: ToldStep[]): MapLine =>
    plainLine({
      id: lineId(field.key),
      to: field.key,
      from: { kind: 'field', field: origin.id },
      steps: chainOf(...steps),
    });
  const same = source.find((candidate) => meaningsOf(candidate).some((word) => meaningsOf(field).includes(word)));
  if (same) {
    if (same.type === 'email') return line(same, READY.trim, READY.lowerCase);
    if (same.type === 'yes/no' && (field.type === 'number' || field.type === 'text'))
      return line(same, READY.oneOrZero);
    return line(same, READY.trim);
  }
  const fullName = source.find((candidate) => meaningsOf(candidate).includes('name'));
  if (fullName && meaningsOf(field).includes('firstname')) return line(fullName, READY.firstNames);
  if (fullName && meaningsOf(field).includes('lastname')) return line(fullName, READY.lastName);
  return null;
}

/** The id of a line that is made for a destination field. */
export const lineId = (to: string): string => `l-${to}`;

/** What a field is about: what it is kept as on the contact, where that is said; otherwise what its name and label say. */
function meaningsOf(field: { key: string; label: string; type: string; keepAs?: string }): string[] {
  const words = (field.keepAs ? [field.keepAs] : [field.key, field.label]).map((text) =>
    text.toLowerCase().replace(/[^a-z0-9]/g, ''),
  );
  const rows = SAME_MEANING.filter((row) => words.some((word) => row.includes(word)));
  return [...words, ...rows.map((row) => row[0] ?? ''), ...(field.type === 'email' ? ['email'] : [])];
}
