import { type FieldValue, type FieldValues, isEmpty, normaliseEmail, type SourceField } from '../values/index.ts';

/** Something that identifies a person: an address in lower case, or a number in E.164 (ITU-T E.164: + and digits). */
export interface ContactKey {
  kind: 'email' | 'phone';
  value: string;
}

/** What is known of a contact when a submission is planned. */
export interface KnownContact {
  id: string;
  /** The key by which the submission was recognised. */
  matchedBy: ContactKey;
  values: Record<string, FieldValue>;
}

export interface ValueChange {
  name: string;
  from: FieldValue | null;
  to: FieldValue;
  /** When it is taken over; never, where anybody could have said it of a confirmed person and nobody asks them. */
  when: 'now' | 'after confirmation' | 'never';
}

/**
 * The fields whose values say who the person is: those kept as the contact's email, or else the first email field that is
 * kept as nothing. Another address in a form, such as a friend's, identifies nobody.
 */
export function identifyingFields(fields: SourceField[]): SourceField[] {
  const emails = fields.filter(({ type }) => type === 'email');
  const kept = emails.filter(({ keepAs }) => keepAs === 'email');
  return kept.length > 0 ? kept : emails.filter(({ keepAs }) => keepAs === '').slice(0, 1);
}

/** The keys of the person behind a submission, in the order in which they are tried. */
export function keysOf(fields: SourceField[], values: FieldValues): ContactKey[] {
  return identifyingFields(fields).flatMap(({ id }) => {
    const value = values[id];
    return typeof value === 'string' && value !== '' ? [{ kind: 'email' as const, value: normaliseEmail(value) }] : [];
  });
}

/** What a submission changes in a contact. Empty answers never erase what is known. */
export function changesTo(known: KnownContact | null, fields: SourceField[], values: FieldValues): ValueChange[] {
  return fields.flatMap((field) => {
    const sent = values[field.id];
    if (field.keepAs === '' || sent === undefined || isEmpty(sent)) return [];
    const to = field.type === 'email' && typeof sent === 'string' ? normaliseEmail(sent) : sent;
    const from = known?.values[field.keepAs] ?? null;
    return JSON.stringify(from) === JSON.stringify(to) ? [] : [{ name: field.keepAs, from, to, when: 'now' as const }];
  });
}
