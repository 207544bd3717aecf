import { and, asc, desc, eq, inArray, ne, sql } from 'drizzle-orm';
import { consentState, type ConsentEventKind, type ConsentState } from '../../core/consent/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import type { ContactKey, ValueChange } from '../../core/identity/index.ts';
import type { KnownPerson } from '../../core/plan/index.ts';
import { printValue, type FieldValue } from '../../core/values/index.ts';
import { containing, insertRows, rowsOf, type Db } from './database.ts';
import { confirmations, consentEvents, contactKeys, contacts, contactValues, deliveries } from './schema.ts';

export const NOBODY: KnownPerson = { contact: null, consent: [], openConfirmations: [], sent: [] };

/** What is known of the person whom one of the keys identifies. */
export async function readKnownPerson(db: Db, keys: ContactKey[]): Promise<KnownPerson> {
  const [person] = await readKnownPeople(db, [keys]);
  return person ?? NOBODY;
}

/**
 * What is known of several people, each identified by the first of their keys that is known.
 * @param lock hold them until the transaction ends, so that two submissions of one person are planned one after the other
 * @returns one for each list of keys, in their order
 */
export async function readKnownPeople(db: Db, keys: ContactKey[][], lock = false): Promise<KnownPerson[]> {
  const all = keys.flat();
  if (all.length === 0) return keys.map(() => NOBODY);
  const either = all.map(({ kind, value }) => sql`(k.kind = ${kind} AND k.value = ${value})`);
  const found = await rowsOf<ContactKey & { id: string }>(
    db,
    sql`SELECT k.kind, k.value, c.id FROM contact_keys k JOIN contacts c ON c.id = k.contact_id
      WHERE ${sql.join(either, sql` OR `)} ${lock ? sql`FOR UPDATE` : sql``}`,
  );
  const idOf = new Map(found.map(({ kind, value, id }) => [nameOf({ kind, value }), id]));
  const known = await readContacts(db, [...new Set(idOf.values())]);
  return keys.map((own) => {
    const matchedBy = own.find((key) => idOf.has(nameOf(key)));
    const id = matchedBy && idOf.get(nameOf(matchedBy));
    const parts = id && known(id);
    return matchedBy && parts ? { ...parts, contact: { ...parts.contact, matchedBy } } : NOBODY;
  });
}

const nameOf = ({ kind, value }: ContactKey): string => `${kind} ${value}`;

/** Values, consent and open confirmations of contacts. @returns what tells those of one of them */
async function readContacts(db: Db, ids: string[]) {
  const values =
    ids.length === 0 ? [] : await db.select().from(contactValues).where(inArray(contactValues.contactId, ids));
  const events = await consentOf(db, ids);
  const open =
    ids.length === 0
      ? []
      : await db
          .select({
            id: confirmations.id,
            contactId: confirmations.contactId,
            purpose: confirmations.purpose,
            lastSentAt: confirmations.lastSentAt,
          })
          .from(confirmations)
          .where(and(inArray(confirmations.contactId, ids), eq(confirmations.state, 'pending')));
  const sent = await sentTo(db, ids);
  return (id: string) => ({
    sent: sent.get(id) ?? [],
    contact: {
      id,
      values: Object.fromEntries(
        values.filter(({ contactId }) => contactId === id).map(({ name, value }) => [name, value]),
      ),
    },
    consent: events.get(id) ?? [],
    openConfirmations: open
      .filter(({ contactId }) => contactId === id)
      .map(({ contactId: _, ...confirmation }) => confirmation),
  });
}

/** What was last meant for each of these people by each target, of all that was not dropped. */
async function sentTo(db: Db, ids: string[]): Promise<Map<string, KnownPerson['sent']>> {
  if (ids.length === 0) return new Map();
  const { contactId, routeId, targetId, intent } = deliveries;
  const rows = await db
    .select({ contactId, routeId, targetId, intent })
    .from(deliveries)
    .where(and(inArray(contactId, ids), ne(deliveries.state, 'dropped')))
    .orderBy(desc(deliveries.sequence));
  const newest = new Map<string, (typeof rows)[number]>();
  for (const row of rows) {
    const key = `${row.contactId} ${row.routeId} ${row.targetId}`;
    if (!newest.has(key)) newest.set(key, row);
  }
  return groupBy(newest.values(), (row) => row.contactId);
}

/** What a plan makes of one contact. */
export interface ContactChange {
  id: string;
  /** The key that a new contact is recognised by; for one who is known, the key that was recognised. */
  key: ContactKey;
  isNew: boolean;
  changes: { name: string; to: FieldValue }[];
  submissionId: string;
}

/**
 * Makes and changes contacts; each value remembers the submission that set it. Fails with a duplicate entry when another
 * transaction made one of them meanwhile.
 */
export async function changeContacts(db: Db, people: ContactChange[], now: number): Promise<void> {
  if (people.length === 0) return;
  const keys = people.filter(({ isNew }) => isNew).map(({ id, key }) => ({ ...key, contactId: id }));
  await insertRows(db, contactKeys, keys);
  const rows = people.map(({ id, key, changes }) => ({
    id,
    createdAt: now,
    updatedAt: now,
    email: key.value,
    name: nameIn(changes).slice(0, 250),
  }));
  await insertRows(db, contacts, rows, sql`updated_at = ${now}, name = IF(VALUES(name) = '', name, VALUES(name))`);
  const values = people.flatMap(({ id: contactId, changes, submissionId }) =>
    changes.map(({ name, to }) => ({ contactId, name, value: to, submissionId, setAt: now })),
  );
  const set = sql`value = VALUES(value), submission_id = VALUES(submission_id), set_at = VALUES(set_at)`;
  await insertRows(db, contactValues, values, set);
}

/**
 * Takes over what waited for a person's confirmation, as far as nothing newer was said meanwhile.
 * @param submissions those that the confirmation was for, oldest first
 */
export async function takeConfirmedChanges(
  db: Db,
  contactId: string,
  submissions: { id: string; receivedAt: number; changes: ValueChange[] }[],
  now: number,
): Promise<void> {
  const held = await db.select().from(contactValues).where(eq(contactValues.contactId, contactId));
  const setAt = new Map(held.map((row) => [row.name, row.setAt]));
  const [record] = await db.select().from(contacts).where(eq(contacts.id, contactId));
  if (!record) return;
  for (const { id, receivedAt, changes } of submissions) {
    const due = changes.filter(
      ({ name, when }) => when === 'after confirmation' && (setAt.get(name) ?? 0) <= receivedAt,
    );
    if (due.length === 0) continue;
    const key = { kind: 'email' as const, value: record.email };
    await changeContacts(db, [{ id: contactId, key, isNew: false, changes: due, submissionId: id }], now);
  }
}

/** The name that values say; '' when they say none. */
function nameIn(changes: ContactChange['changes']): string {
  const byName = Object.fromEntries(changes.map(({ name, to }) => [name, printValue(to)]));
  return byName.full_name ?? [byName.first_name, byName.last_name].filter(Boolean).join(' ');
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

export async function addConsentEvents(db: Db, events: NewConsentEvent[]): Promise<void> {
  await insertRows(
    db,
    consentEvents,
    events.map((event) => ({ ...event, channel: 'email' })),
  );
}

/** Proof that a person confirmed, for another system. */
export interface Proof {
  at: string;
  wording: string;
}

/** What a person said about one purpose. */
export interface Consent {
  state: ConsentState;
  /** Their newest confirmation; null when they never confirmed. */
  proof: Proof | null;
}

/** What each of these people said, for each purpose, by `consentKey`. */
export async function readConsent(db: Db, contactIds: string[]): Promise<Map<string, Consent>> {
  const events = [...(await consentOf(db, contactIds)).values()].flat();
  const byKey = groupBy(events, ({ contactId, purpose }) => consentKey(contactId, purpose));
  return new Map(
    [...byKey].map(([key, own]) => {
      const confirmed = own.findLast(({ kind }) => kind === 'confirmed');
      const proof = confirmed ? { at: new Date(confirmed.at).toISOString(), wording: confirmed.wording } : null;
      return [key, { state: consentState(own), proof }];
    }),
  );
}

export const consentKey = (contactId: string, purpose: string): string => `${contactId} ${purpose}`;

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
  return { keys, values };
}

/** A consent event as the ledger has it, without its evidence. */
type ConsentEntry = Pick<NewConsentEvent, 'contactId' | 'purpose' | 'kind' | 'at' | 'wording'>;

/** Consent events of several contacts, by contact, in the order in which they happened. */
export async function consentOf(db: Db, ids: string[]): Promise<Map<string, ConsentEntry[]>> {
  if (ids.length === 0) return new Map();
  const { contactId, purpose, kind, at, wording } = consentEvents;
  const rows = await db
    .select({ contactId, purpose, kind, at, wording })
    .from(consentEvents)
    .where(inArray(contactId, ids))
    .orderBy(asc(at));
  return groupBy(rows, (entry) => entry.contactId);
}
