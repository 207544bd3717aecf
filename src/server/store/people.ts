import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { ConsentEventKind } from '../../core/consent/index.ts';
import type { ContactKey } from '../../core/identity/index.ts';
import type { KnownPerson } from '../../core/plan/index.ts';
import type { FieldValue } from '../../core/values/index.ts';
import { containing, rowsOf, type Db } from './database.ts';
import { confirmations, consentEvents, contactKeys, contacts, contactValues } from './schema.ts';

export const NOBODY: KnownPerson = { contact: null, consent: [], openConfirmations: [] };

/**
 * What is known of the person whom one of the keys identifies.
 * @param lock hold the person until the transaction ends, so that two submissions of theirs are planned one after the other
 */
export async function readKnownPerson(db: Db, keys: ContactKey[], lock = false): Promise<KnownPerson> {
  for (const key of keys) {
    const [found] = await rowsOf<{ id: string }>(
      db,
      sql`SELECT c.id FROM contact_keys k JOIN contacts c ON c.id = k.contact_id WHERE k.kind = ${key.kind} AND k.value = ${key.value} ${lock ? sql`FOR UPDATE` : sql``}`,
    );
    if (found) return knownPerson(db, found.id, key);
  }
  return NOBODY;
}

async function knownPerson(db: Db, id: string, matchedBy: ContactKey): Promise<KnownPerson> {
  const values = await db.select().from(contactValues).where(eq(contactValues.contactId, id));
  const events = await db
    .select({ kind: consentEvents.kind, purpose: consentEvents.purpose, at: consentEvents.at })
    .from(consentEvents)
    .where(eq(consentEvents.contactId, id));
  const open = await db
    .select({ id: confirmations.id, purpose: confirmations.purpose, lastSentAt: confirmations.lastSentAt })
    .from(confirmations)
    .where(and(eq(confirmations.contactId, id), eq(confirmations.state, 'pending')));
  return {
    contact: {
      id,
      matchedBy,
      values: Object.fromEntries(values.map(({ name, value }) => [name, value as FieldValue])),
    },
    consent: events.map((event) => ({ ...event, kind: event.kind as ConsentEventKind })),
    openConfirmations: open,
  };
}

/** Makes a contact with one key. Fails with a duplicate entry when another transaction was quicker. */
export async function addContact(db: Db, contact: { id: string; key: ContactKey; now: number }): Promise<void> {
  await db.insert(contactKeys).values({ kind: contact.key.kind, value: contact.key.value, contactId: contact.id });
  await db
    .insert(contacts)
    .values({ id: contact.id, createdAt: contact.now, updatedAt: contact.now, email: contact.key.value, name: '' });
}

/** Sets values of a contact; each remembers the submission that set it. */
export async function setContactValues(
  db: Db,
  contactId: string,
  changes: { name: string; to: FieldValue }[],
  submissionId: string,
  now: number,
): Promise<void> {
  if (changes.length > 0) {
    const rows = changes.map(({ name, to }) => ({ contactId, name, value: to, submissionId, setAt: now }));
    const set = { value: sql`VALUES(value)`, submissionId, setAt: now };
    await db.insert(contactValues).values(rows).onDuplicateKeyUpdate({ set });
  }
  const byName = Object.fromEntries(changes.map(({ name, to }) => [name, String(to)]));
  const name = byName.full_name ?? [byName.first_name, byName.last_name].filter(Boolean).join(' ');
  await db
    .update(contacts)
    .set({ updatedAt: now, ...(name === '' ? {} : { name: name.slice(0, 250) }) })
    .where(eq(contacts.id, contactId));
}

export interface NewConsentEvent {
  id: string;
  contactId: string;
  submissionId: string | null;
  purpose: string;
  kind: ConsentEventKind;
  at: number;
  wording: string;
  evidence: Record<string, string>;
}

export async function addConsentEvent(db: Db, event: NewConsentEvent): Promise<void> {
  await db.insert(consentEvents).values({ ...event, channel: 'email' });
}

/** Proof that a person confirmed, for another system. */
export interface Proof {
  at: string;
  wording: string;
}

/** The newest confirmation of each of these people, by `proofKey`; none of those who never confirmed. */
export async function readProofs(db: Db, contactIds: string[]): Promise<Map<string, Proof>> {
  if (contactIds.length === 0) return new Map();
  const events = await db
    .select({
      contactId: consentEvents.contactId,
      purpose: consentEvents.purpose,
      at: consentEvents.at,
      wording: consentEvents.wording,
    })
    .from(consentEvents)
    .where(and(inArray(consentEvents.contactId, contactIds), eq(consentEvents.kind, 'confirmed')))
    .orderBy(asc(consentEvents.at));
  // Later ones take the place of earlier ones.
  return new Map(
    events.map(({ contactId, purpose, at, wording }) => [
      proofKey(contactId, purpose),
      { at: new Date(at).toISOString(), wording },
    ]),
  );
}

export const proofKey = (contactId: string, purpose: string): string => `${contactId} ${purpose}`;

export interface PersonRecord {
  id: string;
  email: string;
  name: string;
  createdAt: number;
  updatedAt: number;
}

/**
 * People, those changed last first, a page at a time.
 * @param after where the page starts: the time and id of the row before it
 */
export async function listPeople(
  db: Db,
  text: string,
  after: { updatedAt: number; id: string } | null,
  limit: number,
): Promise<PersonRecord[]> {
  const like = containing(text);
  return rowsOf<PersonRecord>(
    db,
    sql`SELECT id, email, name, created_at AS createdAt, updated_at AS updatedAt FROM contacts
      WHERE ${text === '' ? sql`TRUE` : sql`(email LIKE ${like} OR name LIKE ${like})`}
        ${after ? sql`AND (updated_at, id) < (${after.updatedAt}, ${after.id})` : sql``}
      ORDER BY updated_at DESC, id DESC LIMIT ${limit}`,
  );
}

export async function findPersonRecord(db: Db, id: string): Promise<PersonRecord | null> {
  const [row] = await db.select().from(contacts).where(eq(contacts.id, id));
  return row ?? null;
}

/** Everything else about one contact: keys and values with where they came from. */
export async function readPersonParts(db: Db, id: string) {
  const keys = await db
    .select({ kind: contactKeys.kind, value: contactKeys.value })
    .from(contactKeys)
    .where(eq(contactKeys.contactId, id));
  const values = await db
    .select()
    .from(contactValues)
    .where(eq(contactValues.contactId, id))
    .orderBy(contactValues.name);
  return { keys, values: values.map((row) => ({ ...row, value: row.value as FieldValue })) };
}

/** Consent events of several contacts, by contact. */
export async function consentOf(
  db: Db,
  ids: string[],
): Promise<Map<string, { kind: ConsentEventKind; purpose: string; at: number }[]>> {
  const found = new Map<string, { kind: ConsentEventKind; purpose: string; at: number }[]>();
  if (ids.length === 0) return found;
  const rows = await db.select().from(consentEvents).where(inArray(consentEvents.contactId, ids));
  for (const { contactId, kind, purpose, at } of rows) {
    found.set(contactId, [...(found.get(contactId) ?? []), { kind: kind as ConsentEventKind, purpose, at }]);
  }
  return found;
}
