import { sql } from 'drizzle-orm';
import type { RowDataPacket } from 'mysql2/promise';
import { UUID } from 'uuidv7';
import { DOMAINS, FAMILY, GIVEN, seededRandom } from '../demo/people.ts';
import { addCounts } from '../store/counting.ts';
import { rowsOf, type Store } from '../store/database.ts';
import { addSearchWords } from '../store/people/index.ts';
import { DAY_MS } from '../store/figures.ts';

/** People that are made by one round of statements. */
const TOGETHER = 5_000;
/** So many different histories are multiplied at most. */
const MOST_TEMPLATES = 60;
const WORDS_TOGETHER = 1_000;
/** Over so many days those came who are made. */
const DAYS = 400;
const SYLLABLES = ['ka', 'lo', 'ri', 'mu', 'ven', 'tha', 'sor', 'bel', 'nim', 'dra', 'quo', 'fin', 'gal', 'hes', 'wy'];

/** What of each table is not as it is in the history that is multiplied. @param p the person who is made, @param t the row */
type Changes = Record<string, string>;

const id = (kind: string, row = '0'): string =>
  `CONCAT(LEFT(p.base, 24), '${kind}', LPAD(LOWER(HEX(${row})), 3, '0'), RIGHT(p.base, 8))`;
const CONTACT = id('c');
const SUBMISSION = id('5');
/** A text in which somebody else is spoken of. */
const of = (column: string): string =>
  ['email', 'given', 'family'].reduce((text, part) => `REPLACE(${text}, p.old_${part}, p.${part})`, `t.${column}`);
const later = (column: string): string => `t.${column} + p.shift`;

/** The tables of a person's history, each with whose rows they are and what changes in them. */
const TABLES: { table: string; own: string; changes: Changes; leftOut?: string[] }[] = [
  {
    table: 'contacts',
    own: 't.id = p.old_contact',
    changes: {
      id: CONTACT,
      person_id: CONTACT,
      created_at: later('created_at'),
      updated_at: later('updated_at'),
      email: 'p.email',
      name: "CONCAT(p.given, ' ', p.family)",
    },
  },
  {
    table: 'contact_keys',
    own: 't.contact_id = p.old_contact',
    changes: {
      contact_id: CONTACT,
      value: 'p.email',
      submission_id: SUBMISSION,
      said_at: later('said_at'),
      verified_at: later('verified_at'),
    },
  },
  {
    table: 'claims',
    own: 't.contact_id = p.old_contact',
    changes: {
      id: id('a', 't.nth'),
      contact_id: CONTACT,
      value: of('value'),
      submission_id: SUBMISSION,
      at: later('at'),
    },
  },
  {
    table: 'contact_values',
    own: 't.contact_id = p.old_contact',
    changes: { contact_id: CONTACT, value: of('value'), submission_id: SUBMISSION, set_at: later('set_at') },
  },
  {
    table: 'submissions',
    own: 't.id = p.old_submission',
    changes: {
      id: SUBMISSION,
      received_at: later('received_at'),
      raw: of('raw'),
      field_values: of('field_values'),
      plan: of('plan'),
      contact_id: CONTACT,
      due_at: later('due_at'),
      repeat_key: "CONCAT(SHA2(p.base, 256), '.', FLOOR((t.received_at + p.shift) / 600000))",
      person_key: "LEFT(SHA2(CONCAT('email ', p.email), 256), 32)",
      last_repeat_at: later('last_repeat_at'),
      replied_at: later('replied_at'),
    },
  },
  {
    table: 'deliveries',
    own: 't.submission_id = p.old_submission',
    leftOut: ['sequence'],
    changes: {
      id: id('d', 't.nth'),
      submission_id: SUBMISSION,
      contact_id: CONTACT,
      confirmation_id: `IF(t.confirmation_id IS NULL, NULL, ${id('f')})`,
      intent: of('intent'),
      read_back: of('read_back'),
      begun_at: later('begun_at'),
      created_at: later('created_at'),
      ended_at: later('ended_at'),
      due_at: later('due_at'),
    },
  },
  {
    table: 'consent_events',
    own: 't.contact_id = p.old_contact',
    changes: {
      id: id('e', 't.nth'),
      contact_id: CONTACT,
      submission_id: SUBMISSION,
      at: later('at'),
    },
  },
  {
    table: 'confirmations',
    own: 't.submission_id = p.old_submission',
    changes: {
      id: id('f'),
      contact_id: CONTACT,
      submission_id: SUBMISSION,
      sent_to: 'p.email',
      created_at: later('created_at'),
      expires_at: later('expires_at'),
      last_sent_at: later('last_sent_at'),
      confirmed_at: later('confirmed_at'),
    },
  },
  {
    table: 'form_events',
    own: 't.subject = p.old_submission',
    changes: { subject: SUBMISSION, at: later('at'), counted_by: 'p.rollup_id' },
  },
];

interface Template extends RowDataPacket {
  contact: string;
  submission: string;
  email: string;
  given: string;
  family: string;
  at: number;
}

/**
 * Multiplies people who are there, with all that happened to them: each new one has a name and an address of their own, and the
 * same history at another time. What is counted is counted.
 * @param tell how many are made
 */
export async function seedPeople(store: Store, count: number, tell: (made: number) => void): Promise<void> {
  const { pool } = store;
  // Those with one submission, by an address alone, whose history is at its end.
  const [templates] = await pool.query<Template[]>(
    `SELECT c.id AS contact, s.id AS submission, c.email, SUBSTRING_INDEX(c.name, ' ', 1) AS given,
        SUBSTRING(c.name, LOCATE(' ', c.name) + 1) AS family, s.received_at AS at
      FROM contacts c JOIN submissions s ON s.contact_id = c.id
      WHERE c.phone = '' AND c.name LIKE '_% _%' AND s.state = 'planned' AND c.merged_into IS NULL AND c.person_id = c.id
        AND (SELECT COUNT(*) FROM submissions o WHERE o.contact_id = c.id) = 1
        AND (SELECT COUNT(*) FROM contact_keys k WHERE k.contact_id = c.id) = 1
        AND NOT EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id AND d.state NOT IN ('delivered', 'dropped'))
        AND EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id)
      LIMIT ${MOST_TEMPLATES}`,
  );
  if (templates.length === 0)
    throw new Error('there is nobody whose history could be multiplied: start ./iwashi demo first');
  const statements = await Promise.all(TABLES.map((one) => statementFor(store, one)));
  // One that was broken off leaves its own, perhaps of another version.
  await pool.query('DROP TABLE IF EXISTS seed_people');
  await pool.query(
    `CREATE TABLE seed_people (base CHAR(36) CHARACTER SET ascii PRIMARY KEY, old_contact CHAR(36) CHARACTER SET ascii COLLATE ascii_bin,
      old_submission CHAR(36) CHARACTER SET ascii COLLATE ascii_bin, old_email VARCHAR(254), old_given VARCHAR(100), old_family VARCHAR(100), email VARCHAR(254), given VARCHAR(100),
      family VARCHAR(100), shift BIGINT, rollup_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin)`,
  );
  // Who was made before has the numbers before these.
  const [[there]] = await pool.query<(RowDataPacket & { n: number })[]>('SELECT COUNT(*) AS n FROM contacts');
  const first = there?.n ?? 0;
  const random = seededRandom(first + count);
  const now = Date.now();
  for (let made = 0; made < count; made += TOGETHER) {
    const rollupId = idAt(now, random);
    const people = Array.from({ length: Math.min(TOGETHER, count - made) }, (_, at) => {
      const number = first + made + at;
      const template = templates[number % templates.length] as Template;
      // In the order in which they came, as tables grow.
      const cameAt = Math.floor(now - DAY_MS - (1 - (made + at) / count) * DAYS * DAY_MS);
      const given = GIVEN[number % GIVEN.length] ?? '';
      const family = `${FAMILY[Math.floor(number / GIVEN.length) % FAMILY.length] ?? ''}${syllables(number)}`;
      const host = DOMAINS[number % DOMAINS.length] ?? '';
      const email = `${given}.${family}${number}@${host}`.toLowerCase().replace(/[^\w.@-]/g, '');
      const { contact, submission, email: oldEmail, given: oldGiven, family: oldFamily, at: oldAt } = template;
      return [
        idAt(cameAt, random),
        contact,
        submission,
        oldEmail,
        oldGiven,
        oldFamily,
        email,
        given,
        family,
        cameAt - oldAt,
        rollupId,
      ];
    });
    await pool.query('TRUNCATE TABLE seed_people');
    await pool.query('INSERT INTO seed_people VALUES ?', [people]);
    // Each table by itself, several at once: nobody looks for half a history where nothing else runs.
    await Promise.all([...statements.map((statement) => pool.query(statement)), addWords(store)]);
    await pool.query(COUNT_DELIVERIES);
    await addCounts(store.db, rollupId);
    tell(made + people.length);
  }
  await pool.query('DROP TABLE seed_people');
  await pool.query(`ANALYZE TABLE ${TABLES.map(({ table }) => table).join(', ')}, form_counts`);
}

/** Counts the deliveries of those who were made, as it would have been done when they arrived. */
const COUNT_DELIVERIES = `INSERT INTO delivery_counts (day, route_id, source_id, connection_id, share, delivered)
  SELECT FLOOR(d.ended_at / ${DAY_MS}), d.route_id, s.source_id, d.connection_id, 0, COUNT(*)
  FROM seed_people p STRAIGHT_JOIN submissions s ON s.id = ${SUBMISSION} STRAIGHT_JOIN deliveries d ON d.submission_id = s.id
  WHERE d.state = 'delivered'
  GROUP BY FLOOR(d.ended_at / ${DAY_MS}), d.route_id, s.source_id, d.connection_id
  ON DUPLICATE KEY UPDATE delivered = delivery_counts.delivered + VALUES(delivered)`;

/** Has those found who were made. */
async function addWords({ db }: Store): Promise<void> {
  const made = await rowsOf<{ id: string; email: string; name: string }>(
    db,
    sql`SELECT ${sql.raw(CONTACT)} AS id, p.email, CONCAT(p.given, ' ', p.family) AS name FROM seed_people p`,
  );
  for (let at = 0; at < made.length; at += WORDS_TOGETHER)
    await addSearchWords(
      db,
      made.slice(at, at + WORDS_TOGETHER).map((one) => ({ ...one, phone: '' })),
    );
}

/** The statement that multiplies the rows of a table. */
async function statementFor(
  { pool }: Store,
  { table, own, changes, leftOut = [] }: (typeof TABLES)[number],
): Promise<string> {
  const [columns] = await pool.query<(RowDataPacket & { name: string })[]>(
    `SELECT column_name AS name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? ORDER BY ordinal_position`,
    [table],
  );
  const names = columns.map(({ name }) => name).filter((name) => !leftOut.includes(name));
  const values = names.map((name) => changes[name] ?? `t.\`${name}\``);
  const numbered = Object.values(changes).some((change) => change.includes('t.nth'));
  const [ownColumn = ''] = own.replace('t.', '').split(' ');
  // Rows of one history are told apart by their number in it.
  const from = numbered
    ? `(SELECT *, ROW_NUMBER() OVER (PARTITION BY \`${ownColumn}\` ORDER BY id) AS nth FROM \`${table}\`
        WHERE \`${ownColumn}\` IN (SELECT DISTINCT ${own.split('= p.')[1]} FROM seed_people))`
    : `\`${table}\``;
  return `INSERT INTO \`${table}\` (${names.map((name) => `\`${name}\``).join(', ')})
    SELECT ${values.join(', ')} FROM seed_people p STRAIGHT_JOIN ${from} t ON ${own}`;
}

/** A UUID of version 7 (RFC 9562, 5.7) of a time. */
function idAt(at: number, random: () => number): string {
  const bits = () => Math.floor(random() * 2 ** 30);
  return UUID.fromFieldsV7(at, bits() & 0xfff, bits(), (bits() * 4 + (bits() & 3)) >>> 0).toString();
}

/** A number as something that can be said: other numbers, other words. */
function syllables(number: number): string {
  const next = SYLLABLES[number % SYLLABLES.length] ?? '';
  return number < SYLLABLES.length ? next : syllables(Math.floor(number / SYLLABLES.length)) + next;
}
