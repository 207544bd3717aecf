import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import {
  addressIn,
  keyText,
  nameIn,
  presentRecord,
  scopeOf,
  type ContactKey,
  type ValueChange,
} from '../../../core/identity/index.ts';
import { inWords } from '../../../core/values/index.ts';
import { insertRows, oneOf, rowsOf, type Db } from '../database.ts';
import { claims, contactKeys, contacts, contactValues } from '../schema/index.ts';
import { personOf } from './known.ts';
import { addSearchWords, setSearchWords } from './search.ts';

/** What a plan makes of one contact. */
export interface ContactChange {
  id: string;
  isNew: boolean;
  /** Every key in the submission. */
  keys: ContactKey[];
  /** Those of them that somebody else is recognised by. */
  ofOthers: ContactKey[];
  /** What is taken over. */
  changes: Pick<ValueChange, 'name' | 'to' | 'rule' | 'trust'>[];
  submissionId: string;
}

/**
 * Makes and changes contacts: keys and claims are added, and the present record follows. Fails with a duplicate entry when
 * another transaction made one of them meanwhile.
 */
export async function changeContacts(db: Db, people: ContactChange[], newId: () => string, now: number): Promise<void> {
  if (people.length === 0) return;
  const made = people.filter(({ isNew }) => isNew);
  const rows = made.map(({ id, keys, changes }) => {
    const values = Object.fromEntries(changes.map(({ name, to }) => [name, to]));
    const phone = keys.find(({ kind }) => kind === 'phone')?.value ?? '';
    const shown = { email: addressIn(keys), phone, name: nameIn(values).slice(0, 250) };
    return { id, personId: id, createdAt: now, updatedAt: now, ...shown };
  });
  await insertRows(db, contacts, rows);
  await addSearchWords(db, rows);
  const grown = await addKeys(db, people, now);
  const said = people.flatMap(({ id, changes, submissionId }) =>
    changes.map(({ name, to, rule, trust = 'usual' }) => ({
      id: newId(),
      contactId: id,
      name,
      value: to,
      rule,
      trust,
      submissionId,
      at: now,
    })),
  );
  await insertRows(db, claims, said);
  // Of somebody new, and of one who was never merged, the claims come in their order: the newest that wins is the present one.
  await insertRows(
    db,
    contactValues,
    made.flatMap(({ id: contactId, changes, submissionId }) =>
      changes.map(({ name, to, rule, trust = 'usual' }) => ({
        contactId,
        name,
        value: to,
        rule,
        trust,
        submissionId,
        setAt: now,
      })),
    ),
  );
  const known = people.filter(({ isNew }) => !isNew);
  for (const { id, changes } of known) if (changes.length > 0 || grown.has(id)) await refreshRecord(db, id, now);
  const seen = known.filter(({ id, changes }) => changes.length === 0 && !grown.has(id)).map(({ id }) => id);
  if (seen.length > 0)
    await db.execute(
      sql`UPDATE contacts own STRAIGHT_JOIN contacts person ON person.id = own.person_id SET person.updated_at = ${now} WHERE own.id IN ${oneOf(seen)}`,
    );
}

/**
 * Adds the keys that a contact does not have yet. One that somebody else is recognised by is noted, and recognises nobody.
 * @returns the contacts that have a new one
 */
async function addKeys(db: Db, people: ContactChange[], now: number): Promise<Set<string>> {
  const known = people.filter(({ isNew }) => !isNew).map(({ id }) => id);
  const held =
    known.length === 0 ? [] : await db.select().from(contactKeys).where(inArray(contactKeys.contactId, known));
  const rows = people.flatMap(({ id, keys, ofOthers, submissionId }) => {
    const others = new Set(ofOthers.map(keyText));
    return keys
      .filter((key) => !held.some((row) => row.contactId === id && isSameKey(row, key)))
      .map((key) => ({
        kind: key.kind,
        scope: scopeOf(key),
        value: key.value,
        contactId: id,
        isOwner: others.has(keyText(key)) ? null : 1,
        submissionId,
        saidAt: now,
      }));
  });
  await insertRows(db, contactKeys, rows);
  return new Set(rows.map(({ contactId }) => contactId));
}

const isSameKey = (row: { kind: string; scope: string; value: string }, key: ContactKey): boolean =>
  row.kind === key.kind && row.scope === scopeOf(key) && row.value === key.value;

/** Computes the present record of the person of a contact anew, out of everything that was said of them. */
export async function refreshRecord(db: Db, contactId: string, now: number): Promise<void> {
  const personId = await personOf(db, contactId);
  if (personId === null) return;
  const said = await db
    .select({ claim: claims })
    .from(claims)
    .innerJoin(contacts, eq(contacts.id, claims.contactId))
    .where(and(eq(contacts.personId, personId), isNull(claims.undoneAt)));
  const present = presentRecord(said.map(({ claim }) => claim));
  await db.delete(contactValues).where(eq(contactValues.contactId, personId));
  await insertRows(
    db,
    contactValues,
    [...present.values()].map(({ name, value, rule, trust, submissionId, at }) => ({
      contactId: personId,
      name,
      value,
      rule,
      trust,
      submissionId,
      setAt: at,
    })),
  );
  const [shown] = await rowsOf<{ email: string | null; phone: string | null }>(
    db,
    sql`SELECT MIN(CASE WHEN k.kind = 'email' THEN k.value END) AS email, MIN(CASE WHEN k.kind = 'phone' THEN k.value END) AS phone
      FROM contacts c STRAIGHT_JOIN contact_keys k ON k.contact_id = c.id WHERE c.person_id = ${personId} AND (k.is_owner = 1 OR c.id = ${personId})`,
  );
  const values = Object.fromEntries([...present].map(([name, { value }]) => [name, value]));
  // What a field of another type is kept as may be longer than any address or number.
  const email = (values.email === undefined ? (shown?.email ?? '') : inWords(values.email)).slice(0, 254);
  const phone = (values.phone === undefined ? (shown?.phone ?? '') : inWords(values.phone)).slice(0, 20);
  const name = nameIn(values).slice(0, 250);
  await db.update(contacts).set({ email, phone, name, updatedAt: now }).where(eq(contacts.id, personId));
  await setSearchWords(db, [{ id: personId, email, phone, name }]);
}

/**
 * Takes over what waited for a person's confirmation, as far as nothing newer was said meanwhile, and notes that the
 * address is theirs.
 * @param submissions those that the confirmation was for, oldest first
 */
export async function takeConfirmedChanges(
  db: Db,
  confirmed: { contactId: string; address: string },
  submissions: { id: string; receivedAt: number; changes: ValueChange[] }[],
  newId: () => string,
  now: number,
): Promise<void> {
  const { contactId, address } = confirmed;
  await db
    .update(contactKeys)
    .set({ verifiedAt: now })
    .where(
      and(
        eq(contactKeys.contactId, contactId),
        eq(contactKeys.kind, 'email'),
        eq(contactKeys.value, address),
        isNull(contactKeys.verifiedAt),
      ),
    );
  const personId = await personOf(db, contactId);
  if (personId === null) return;
  const held = await db.select().from(contactValues).where(eq(contactValues.contactId, personId));
  const setAt = new Map(held.map((row) => [row.name, row.setAt]));
  const people = submissions.flatMap(({ id, receivedAt, changes }) => {
    const due = changes.filter(
      ({ name, when }) => when === 'after confirmation' && (setAt.get(name) ?? 0) <= receivedAt,
    );
    const nothing = { id: contactId, isNew: false, keys: [], ofOthers: [] };
    return due.length === 0 ? [] : [{ ...nothing, changes: due, submissionId: id }];
  });
  await changeContacts(db, people, newId, now);
}
