import { normaliseEmail, type FieldValues, type SourceField } from '../values/index.ts';

/**
 * Something that identifies a person: an address in lower case, a number in E.164 (ITU-T E.164: + and digits), or an id in
 * a system, which means something within its scope only.
 */
export type ContactKey = { kind: 'email' | 'phone'; value: string } | { kind: 'id'; scope: string; value: string };

export type KeyKind = ContactKey['kind'];

/** The system within which a key means something; '' where it means the same everywhere. */
export const scopeOf = (key: ContactKey): string => (key.kind === 'id' ? key.scope : '');

/** A key as one text, the same for keys that are the same. */
export const keyText = (key: ContactKey): string => `${key.kind} ${scopeOf(key)} ${key.value}`;

/** The address among keys; '' when there is none. */
export const addressIn = (keys: ContactKey[]): string => keys.find(({ kind }) => kind === 'email')?.value ?? '';

/** What the kept values of a contact are called that identify a person. */
export const KEY_NAMES: Record<KeyKind, string> = { id: 'id', email: 'email', phone: 'phone' };

/**
 * The fields whose values say who the person is. Of addresses, those kept as the contact's email, or else the first that
 * is kept as nothing: another address in a form, such as a friend's, identifies nobody. Numbers and ids only where they
 * are kept as such.
 */
export function identifyingFields(fields: SourceField[]): SourceField[] {
  const emails = fields.filter(({ type }) => type === 'email');
  const kept = emails.filter(({ keepAs }) => keepAs === KEY_NAMES.email);
  return [
    ...fields.filter(({ keepAs }) => keepAs === KEY_NAMES.id),
    ...(kept.length > 0 ? kept : emails.filter(({ keepAs }) => keepAs === '').slice(0, 1)),
    ...fields.filter(({ type, keepAs }) => type === 'phone' && keepAs === KEY_NAMES.phone),
  ];
}

/** The kind of key that an identifying field holds. */
export function keyKindOf({ type, keepAs }: SourceField): KeyKind {
  if (keepAs === KEY_NAMES.id) return 'id';
  return type === 'phone' ? 'phone' : 'email';
}

/** Whether fields ask for an address that identifies the person, at which they can be written to. */
export const asksForAddress = (fields: SourceField[]): boolean =>
  identifyingFields(fields).some((field) => keyKindOf(field) === 'email');

/**
 * The keys of the person behind a submission, the surest first: an id, an address, a number.
 * @param scope the system that ids in it belong to
 */
export function keysOf(fields: SourceField[], values: FieldValues, scope: string): ContactKey[] {
  return identifyingFields(fields).flatMap((field): ContactKey[] => {
    const value = values[field.id];
    const text = typeof value === 'number' ? String(value) : value;
    if (typeof text !== 'string' || text.trim() === '') return [];
    const kind = keyKindOf(field);
    if (kind === 'email') return [{ kind, value: normaliseEmail(text) }];
    return [kind === 'phone' ? { kind, value: text } : { kind, scope, value: text.trim().slice(0, 200) }];
  });
}
