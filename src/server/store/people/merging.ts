import { eq, inArray } from 'drizzle-orm';
import { merge, partsOf, split, standsFor, type Pointers } from '../../../core/identity/index.ts';
import { bad, good, type Result } from '../../../core/result.ts';
import { type Db } from '../database.ts';
import { contacts, merges } from '../schema/index.ts';
import { refreshRecord } from './changes.ts';

/** Who decided that two contacts are one person, or are not, when and why. */
export interface Decision {
  id: string;
  by: string;
  reason: string;
  at: number;
}

/** The contacts that are one person with any of these, locked, and which of them stands for which. */
async function pointersAround(db: Db, ids: string[]): Promise<{ all: string[]; pointers: Pointers }> {
  const near = db.select({ id: contacts.personId }).from(contacts).where(inArray(contacts.id, ids));
  const rows = await db
    .select({ id: contacts.id, mergedInto: contacts.mergedInto })
    .from(contacts)
    .where(inArray(contacts.personId, near))
    .for('update');
  const pointers = new Map(rows.flatMap(({ id, mergedInto }) => (mergedInto === null ? [] : [[id, mergedInto]])));
  return { all: rows.map(({ id }) => id), pointers };
}

/** Makes one person of two contacts. Nothing that was said of either is changed: the event can be taken back. */
export async function mergeContacts(db: Db, from: string, into: string, decision: Decision): Promise<Result<void>> {
  const { all, pointers } = await pointersAround(db, [from, into]);
  if (!all.includes(from) || !all.includes(into)) return bad('There is no such contact.');
  const merged = merge(pointers, from, into);
  if (!merged.ok) return merged;
  const [first, second] = [standsFor(pointers, from), standsFor(pointers, into)];
  await note(db, { kind: 'merged', contactId: first, intoId: second }, decision);
  await db.update(contacts).set({ mergedInto: second }).where(eq(contacts.id, first));
  await setPerson(db, partsOf(pointers, first), second);
  await refreshRecord(db, second, decision.at);
  return good(undefined);
}

/** Makes a contact that was merged a person by itself again, with all that was merged into it before. */
export async function splitContact(db: Db, id: string, decision: Decision): Promise<Result<void>> {
  const { pointers } = await pointersAround(db, [id]);
  const apart = split(pointers, id);
  if (!apart.ok) return apart;
  await note(db, { kind: 'split', contactId: id, intoId: pointers.get(id) ?? '' }, decision);
  await db.update(contacts).set({ mergedInto: null }).where(eq(contacts.id, id));
  await setPerson(db, partsOf(pointers, id), id);
  await refreshRecord(db, id, decision.at);
  await refreshRecord(db, standsFor(pointers, id), decision.at);
  return good(undefined);
}

const setPerson = (db: Db, ids: string[], personId: string) =>
  db.update(contacts).set({ personId }).where(inArray(contacts.id, ids));

async function note(
  db: Db,
  event: { kind: 'merged' | 'split'; contactId: string; intoId: string },
  { id, by, reason, at }: Decision,
): Promise<void> {
  await db.insert(merges).values({ ...event, id, by, reason, at });
}
