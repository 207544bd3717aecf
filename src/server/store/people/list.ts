import { desc, eq, sql } from 'drizzle-orm';
import { oneOf, rowsOf, type Db } from '../database.ts';
import { peopleLike, reachOf, type Reach } from './search.ts';
import { claims, contactKeys, contacts, contactValues, merges } from '../schema/index.ts';

export type PersonRecord = Pick<
  typeof contacts.$inferSelect,
  'id' | 'email' | 'phone' | 'name' | 'createdAt' | 'updatedAt'
>;

/**
 * People, those changed last first, a page at a time; and how far was looked, where what is searched for is common.
 * @param after where the page starts: the time and id of the row before it
 */
export async function listPeople(
  db: Db,
  text: string,
  after: { updatedAt: number; id: string } | null,
  limit: number,
): Promise<{ people: PersonRecord[]; reach: Reach | null }> {
  const like = text === '' ? null : await peopleLike(db, text);
  if (text !== '' && like === null) return { people: [], reach: null };
  // Few are read and put in order; otherwise they come in it.
  const few = like !== null && 'ids' in like;
  const found =
    like === null ? sql`TRUE` : 'ids' in like ? sql`id IN ${oneOf(like.ids)}` : like.among(sql`contacts.id`);
  // Pairs that are compared as a whole are looked at one by one; the first by itself is found in the index.
  const below = after
    ? sql`AND updated_at <= ${after.updatedAt} AND (updated_at < ${after.updatedAt} OR id < ${after.id})`
    : sql``;
  const from = sql`WHERE merged_into IS NULL ${below}`;
  const order = sql`ORDER BY updated_at DESC, id DESC`;
  const reach =
    like !== null && 'among' in like
      ? await reachOf(db, sql`SELECT id, updated_at AS updatedAt FROM contacts ${from} ${order}`, after === null)
      : null;
  const people = await rowsOf<PersonRecord>(
    db,
    sql`SELECT id, email, phone, name, created_at AS createdAt, updated_at AS updatedAt FROM contacts ${few ? sql`IGNORE INDEX (contacts_updated)` : sql``}
      ${from} AND ${found} ${reach ? sql`AND updated_at >= ${reach.updatedAt} AND (updated_at > ${reach.updatedAt} OR id >= ${reach.id})` : sql``}
      ${order} LIMIT ${limit}`,
  );
  return { people, reach };
}

/** A person, by any of the contacts that are they. */
export async function findPersonRecord(db: Db, id: string): Promise<PersonRecord | null> {
  const [row] = await rowsOf<PersonRecord>(
    db,
    sql`SELECT p.id, p.email, p.phone, p.name, p.created_at AS createdAt, p.updated_at AS updatedAt
      FROM contacts own JOIN contacts p ON p.id = own.person_id WHERE own.id = ${id}`,
  );
  return row ?? null;
}

/** How much of a person's history is read. */
const HISTORY = 200;

/** Everything else about one person: keys, values and history, with where they came from. */
export async function readPersonParts(db: Db, personId: string) {
  const { kind, scope, value, isOwner, submissionId, saidAt, verifiedAt } = contactKeys;
  const keys = await db
    .select({ kind, scope, value, isOwner, submissionId, saidAt, verifiedAt })
    .from(contactKeys)
    .innerJoin(contacts, eq(contacts.id, contactKeys.contactId))
    .where(eq(contacts.personId, personId))
    .orderBy(contactKeys.kind, contactKeys.saidAt);
  const values = await db
    .select()
    .from(contactValues)
    .where(eq(contactValues.contactId, personId))
    .orderBy(contactValues.name);
  const history = await db
    .select({
      name: claims.name,
      value: claims.value,
      rule: claims.rule,
      trust: claims.trust,
      at: claims.at,
      submissionId: claims.submissionId,
    })
    .from(claims)
    .innerJoin(contacts, eq(contacts.id, claims.contactId))
    .where(eq(contacts.personId, personId))
    .orderBy(desc(claims.at), desc(claims.id))
    .limit(HISTORY);
  const mergings = await db
    .select({
      kind: merges.kind,
      contactId: merges.contactId,
      intoId: merges.intoId,
      at: merges.at,
      by: merges.by,
      reason: merges.reason,
    })
    .from(merges)
    .innerJoin(contacts, eq(contacts.id, merges.contactId))
    .where(
      sql`${contacts.personId} = ${personId} OR ${merges.intoId} = ${personId} OR ${merges.contactId} = ${personId}`,
    )
    .orderBy(desc(merges.at));
  return { keys, values, history, mergings };
}
