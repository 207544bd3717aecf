import { and, desc, eq, inArray, ne, sql, type SQL } from 'drizzle-orm';
import { groupBy } from '../../../core/groupBy.ts';
import {
  identify,
  keptValues,
  keysOf,
  keyText,
  nameIn,
  scopeOf,
  type Candidate,
  type ContactKey,
} from '../../../core/identity/index.ts';
import { NOBODY, type KnownPerson } from '../../../core/plan/index.ts';
import type { FieldValue, FieldValues, SourceField } from '../../../core/values/index.ts';
import { oneOf, rowsOf, type Db } from '../database.ts';
import { answersSince } from '../mails.ts';
import { confirmations, contacts, contactValues, deliveries } from '../schema/index.ts';
import { consentOf } from './consent.ts';

/** What a submission says of who it is of. */
export interface IdentityClaims {
  /** The surest first. */
  keys: ContactKey[];
  /** '' for none. */
  name: string;
}

/** @param sourceId within which ids in it mean something */
export const identityClaims = (fields: SourceField[], values: FieldValues, sourceId: string): IdentityClaims => ({
  keys: keysOf(fields, values, sourceId),
  name: nameIn(keptValues(fields, values)),
});

/**
 * What is known of the person whom a submission is of.
 * @param since whether answers that went out since then matter
 */
export async function readKnownPerson(db: Db, said: IdentityClaims, since: number | null = null): Promise<KnownPerson> {
  const [person] = await readKnownPeople(db, [said], { lock: false, answersSince: since });
  return person ?? NOBODY;
}

/**
 * What is known of several people, each identified by what they said of themselves.
 * @param how.lock hold them until the transaction ends, so that two submissions of one person are planned one after the other
 * @param how.answersSince since when answers that went out to them matter; null when none do
 * @returns one for each, in their order
 */
export async function readKnownPeople(
  db: Db,
  said: IdentityClaims[],
  { lock, answersSince: since }: { lock: boolean; answersSince: number | null },
): Promise<KnownPerson[]> {
  const candidates = await candidatesFor(
    db,
    said.flatMap(({ keys }) => keys),
    lock,
  );
  const identified = said.map(({ keys, name }) => {
    const own = keys.flatMap((key) => candidates.get(keyText(key)) ?? []);
    return identify(keys, name, own);
  });
  const known = await readContacts(
    db,
    identified.flatMap(({ sure }) => (sure ? [sure.id] : [])),
    since,
  );
  return identified.map((one) => {
    const parts = one.sure && known(one.sure.id);
    return parts ? { ...parts, identified: one } : { ...NOBODY, identified: one };
  });
}

/** Who is recognised by each of the keys, by the key. */
async function candidatesFor(db: Db, keys: ContactKey[], lock: boolean): Promise<Map<string, Candidate>> {
  if (keys.length === 0) return new Map();
  // All of a kind at once: to weigh an alternative for each of hundreds takes the database longer than to look them up.
  const either = [...groupBy(keys, (key) => `${key.kind} ${scopeOf(key)}`).values()].map((alike) => {
    const [first] = alike as [ContactKey, ...ContactKey[]];
    const values = [...new Set(alike.map(({ value }) => value))];
    return sql`(k.kind = ${first.kind} AND k.scope = ${scopeOf(first)} AND k.value IN ${oneOf(values)})`;
  });
  const found = await rowsOf<KeyRow>(
    db,
    sql`SELECT k.kind, k.scope, k.value, c.id FROM contact_keys k FORCE INDEX (contact_keys_owner) STRAIGHT_JOIN contacts c ON c.id = k.contact_id
      WHERE k.is_owner = 1 AND (${sql.join(either, sql` OR `)}) ${lock ? sql`FOR UPDATE` : sql``}`,
  );
  // Only a telephone number may be doubted, by the address or the name of whoever has it.
  const doubted = [...new Set(found.filter(({ kind }) => kind === 'phone').map(({ id }) => id))];
  const theirs = groupBy(await keysOfContacts(db, doubted), ({ id }) => id);
  const names = await namesOf(db, doubted);
  return new Map(
    found.map((row) => {
      const by = toKey(row);
      const all = (theirs.get(row.id) ?? []).map(toKey);
      return [keyText(by), { id: row.id, by, keys: all.length > 0 ? all : [by], name: names.get(row.id) ?? '' }];
    }),
  );
}

interface KeyRow {
  kind: ContactKey['kind'];
  scope: string;
  value: string;
  id: string;
}

const toKey = ({ kind, scope, value }: Omit<KeyRow, 'id'>): ContactKey =>
  kind === 'id' ? { kind, scope, value } : { kind, value };

async function keysOfContacts(db: Db, ids: string[]): Promise<KeyRow[]> {
  if (ids.length === 0) return [];
  return rowsOf<KeyRow>(
    db,
    sql`SELECT kind, scope, value, contact_id AS id FROM contact_keys WHERE contact_id IN ${oneOf(ids)}`,
  );
}

/** The names that contacts said themselves: what they were merged into later says nothing of them. */
async function namesOf(db: Db, ids: string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await rowsOf<{ id: string; name: string; value: string }>(
    db,
    sql`SELECT contact_id AS id, name, value FROM claims
      WHERE contact_id IN ${oneOf(ids)} AND name IN ('full_name', 'first_name', 'last_name') AND undone_at IS NULL ORDER BY at, id`,
  );
  return new Map(
    [...groupBy(rows, ({ id }) => id)].map(([id, own]) => [
      id,
      nameIn(Object.fromEntries(own.map(({ name, value }) => [name, JSON.parse(value) as FieldValue]))),
    ]),
  );
}

/** Values, consent and open confirmations of contacts. @returns what tells those of one of them */
export async function readContacts(db: Db, ids: string[], since: number | null) {
  const parts =
    ids.length === 0
      ? []
      : await rowsOf<{ id: string; person: string; part: string; email: string }>(
          db,
          sql`SELECT own.id, own.person_id AS person, part.id AS part, part.email FROM contacts own
            STRAIGHT_JOIN contacts part ON part.person_id = own.person_id WHERE own.id IN ${oneOf([...new Set(ids)])}`,
        );
  const all = [...new Set(parts.map(({ part }) => part))];
  const people = [...new Set(parts.map(({ person }) => person))];
  const values =
    people.length === 0 ? [] : await db.select().from(contactValues).where(inArray(contactValues.contactId, people));
  const events = await consentOf(db, ids);
  const open =
    all.length === 0
      ? []
      : await db
          .select({
            id: confirmations.id,
            contactId: confirmations.contactId,
            purposes: confirmations.purposes,
            lastSentAt: confirmations.lastSentAt,
          })
          .from(confirmations)
          .where(and(inArray(confirmations.contactId, all), eq(confirmations.state, 'pending')));
  const sent = await sentTo(db, all);
  const answers = since === null ? [] : await answersSince(db, all, since);
  const partsOf = groupBy(parts, ({ id }) => id);
  const valuesOf = groupBy(values, ({ contactId }) => contactId);
  return (id: string): Omit<KnownPerson, 'identified'> => {
    const own = partsOf.get(id) ?? [];
    const is = (contactId: string) => own.some(({ part }) => part === contactId);
    const person = own[0]?.person ?? id;
    const held = valuesOf.get(person) ?? [];
    const mine = own.find(({ part }) => part === id)?.email ?? '';
    return {
      sent: own.flatMap(({ part }) => sent.get(part) ?? []),
      contact: {
        id,
        address: mine || (own.find(({ email }) => email !== '')?.email ?? ''),
        values: Object.fromEntries(held.map(({ name, value }) => [name, value])),
        trusts: Object.fromEntries(held.map(({ name, trust }) => [name, trust])),
      },
      consent: events.get(id) ?? [],
      answered: answers.filter(({ contactId }) => is(contactId)),
      openConfirmations: open
        .filter(({ contactId }) => is(contactId))
        .map(({ contactId: _, ...confirmation }) => confirmation),
    };
  };
}

/** What was last meant for each of these contacts by each target, of all that was not dropped. */
async function sentTo(db: Db, ids: string[]): Promise<Map<string, KnownPerson['sent']>> {
  if (ids.length === 0) return new Map();
  return groupBy(await newestSent(db, inArray(deliveries.contactId, ids)), (row) => row.contactId);
}

/** The same of what came of some submissions, whoever they are of. */
export const sentBy = (db: Db, submissionIds: string[]): Promise<KnownPerson['sent']> =>
  newestSent(db, inArray(deliveries.submissionId, ['', ...submissionIds]));

async function newestSent(db: Db, which: SQL): Promise<(KnownPerson['sent'][number] & { contactId: string })[]> {
  const { contactId, routeId, routeVersion, targetId, connectionId, state, intent } = deliveries;
  const rows = await db
    .select({ contactId, routeId, routeVersion, targetId, connectionId, state, intent })
    .from(deliveries)
    .where(and(which, ne(deliveries.state, 'dropped')))
    .orderBy(desc(deliveries.sequence));
  const newest = new Map<string, KnownPerson['sent'][number] & { contactId: string }>();
  for (const { state: now, ...row } of rows) {
    const key = `${row.contactId} ${row.routeId} ${row.targetId}`;
    if (!newest.has(key)) newest.set(key, { ...row, arrived: now === 'delivered' });
  }
  return [...newest.values()];
}

/** Whoever stands for a contact; null when there is no such contact. */
export async function personOf(db: Db, contactId: string): Promise<string | null> {
  const [row] = await db.select({ personId: contacts.personId }).from(contacts).where(eq(contacts.id, contactId));
  return row?.personId ?? null;
}
