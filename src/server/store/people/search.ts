import { inArray, sql, type SQL } from 'drizzle-orm';
import { searchTermsOf, searchWordsOf } from '../../../core/identity/index.ts';
import { readFact, writeFact } from '../accounts.ts';
import { beginning, inTransaction, insertRows, oneOf, rowsOf, type Db, type Store } from '../database.ts';
import { contacts, searchWords } from '../schema/index.ts';

/** So many people at most are found by their words, and looked at one by one; more are found among the newest. */
const FEW = 2_000;
/** So many people get their words at once who were there before words were kept. */
const FILLED_TOGETHER = 500;
const FILLED = 'search words';
/** So many are looked at one by one for a page; for those after the first more, since whoever asks for them wants it found. */
const LOOKED_AT = { first: 5_000, later: 40_000 };
const ALL = 'all';

interface Named {
  id: string;
  email: string;
  phone: string;
  name: string;
}

const rowsFor = (people: Named[]) =>
  people.flatMap((person) => searchWordsOf(person).map((word) => ({ contactId: person.id, word })));

/** Has new people found by their words. */
export const addSearchWords = (db: Db, people: Named[]): Promise<void> =>
  insertRows(db, searchWords, rowsFor(people), sql`word = search_words.word`);

/** Has people found by the words that they have now. */
export async function setSearchWords(db: Db, people: Named[]): Promise<void> {
  if (people.length === 0) return;
  await db.delete(searchWords).where(
    inArray(
      searchWords.contactId,
      people.map(({ id }) => id),
    ),
  );
  await addSearchWords(db, people);
}

/** Gives people their words who were there before, a share at a time. @returns whether all have them */
export async function fillSearchWords(store: Store): Promise<boolean> {
  const upTo = (await readFact(store.db, FILLED)) ?? '';
  if (upTo === ALL) return true;
  return inTransaction(store, async (db) => {
    const people = await db
      .select({ id: contacts.id, email: contacts.email, phone: contacts.phone, name: contacts.name })
      .from(contacts)
      .where(sql`id > ${upTo}`)
      .orderBy(contacts.id)
      .limit(FILLED_TOGETHER);
    await addSearchWords(db, people);
    await writeFact(db, FILLED, people.at(-1)?.id ?? ALL);
    return people.length === 0;
  });
}

/**
 * Whose words begin with what is searched for; null where nothing is, or nobody is found. Few are found by their words; where many are, whoever asks goes
 * through the newest and looks at the words of each, which soon finds a page.
 * @param contactId the column that names a person
 */
export async function peopleLike(
  db: Db,
  text: string,
): Promise<{ ids: string[] } | { among: (contactId: SQL) => SQL } | null> {
  const terms = searchTermsOf(text);
  if (terms.length === 0) return null;
  const has = (term: string, contactId: SQL) =>
    // With a limit it stays what it is: a look at the words of one person, not a list of all who have such words.
    sql`(SELECT 1 FROM search_words w FORCE INDEX (PRIMARY) WHERE w.contact_id = ${contactId} AND w.word LIKE ${beginning(term)} LIMIT 1) = 1`;
  let rarest = { term: terms[0] ?? '', ids: null as string[] | null };
  for (const term of terms) {
    const rows = await rowsOf<{ id: string }>(
      db,
      sql`SELECT contact_id AS id FROM search_words WHERE word LIKE ${beginning(term)} LIMIT ${FEW + 1}`,
    );
    const ids = rows.length > FEW ? null : [...new Set(rows.map(({ id }) => id))];
    if (ids !== null && (rarest.ids === null || ids.length < rarest.ids.length)) rarest = { term, ids };
  }
  const others = terms.filter((term) => term !== rarest.term || rarest.ids === null);
  if (rarest.ids === null)
    return {
      among: (contactId) =>
        sql.join(
          others.map((term) => has(term, contactId)),
          sql` AND `,
        ),
    };
  if (others.length === 0 || rarest.ids.length === 0) return someOf(rarest.ids);
  const all = sql.join(
    others.map((term) => has(term, sql`c.id`)),
    sql` AND `,
  );
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT c.id FROM contacts c WHERE c.id IN ${oneOf(rarest.ids)} AND ${all}`,
  );
  return someOf(rows.map(({ id }) => id));
}

/** How far a page of a list goes whose lines are looked at one by one. */
export interface Reach {
  looked: number;
  /** The last line that is looked at. */
  id: string;
  updatedAt: number;
}

/**
 * Where the looking of a page ends; null where it comes to the end of the list.
 * @param list selects the lines of the list from where the page starts, in their order
 */
export async function reachOf(db: Db, list: SQL, isFirst: boolean): Promise<Reach | null> {
  const looked = LOOKED_AT[isFirst ? 'first' : 'later'];
  const [end] = await rowsOf<{ id: string; updatedAt?: number }>(db, sql`${list} LIMIT 1 OFFSET ${looked - 1}`);
  return end ? { looked, id: end.id, updatedAt: end.updatedAt ?? 0 } : null;
}

const someOf = (ids: string[]) => (ids.length === 0 ? null : { ids });
