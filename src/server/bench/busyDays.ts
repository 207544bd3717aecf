import { sql } from 'drizzle-orm';
import { uuidv7 } from 'uuidv7';
import { skyLetterForm } from '../demo/documents.ts';
import { seededRandom } from '../demo/people.ts';
import { STRETCHES } from '../../core/insight/index.ts';
import type { Context } from '../context.ts';
import { countEvents, noteEvents, type FormEvent } from '../store/counting.ts';
import { inTransaction, rowsOf } from '../store/database.ts';
import { DAY_MS, HOUR_MS } from '../store/figures.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';

const SOURCES = 20;
const PAGES = 200;
const NOTED_TOGETHER = 2_000;
const COUNTED_TOGETHER = 20_000;
/** So many days back every day is as busy as the one that was made. */
const DAYS = 28;

/** Of a hundred showings so many come so far: an invention, about as forms do. */
const STARTED = 30;
const ANSWERED = 24;
const COMPLETED = 8;

/**
 * Makes days with so many events at twenty forms on two hundred pages, some far busier than others: one day event by event, as visitors tell them;
 * those before by its counts alone, since nothing that is looked at reads more of them.
 * @returns how many events a second were noted, and how many were counted
 */
export async function makeBusyDays(
  { store, now }: Context,
  perDay: number,
  tell: (made: number) => void,
): Promise<{ noted: number; counted: number }> {
  const { db } = store;
  const sourceIds = Array.from({ length: SOURCES }, () => uuidv7());
  for (const [at, id] of sourceIds.entries()) {
    const draft = { ...skyLetterForm(''), origins: [] };
    await addSource(db, { id, publicId: `busy-${at}`, name: `Busy ${at}`, draft, now: now() });
    const source = await findSource(db, id);
    if (source) await publishSource(db, source, now());
  }
  const random = seededRandom(perDay);
  const day = Math.floor(now() / DAY_MS) - 1;
  const began = performance.now();
  let made = 0;
  while (made < perDay) {
    const events: FormEvent[] = [];
    while (events.length < NOTED_TOGETHER) events.push(...showing(sourceIds, day, random));
    await noteEvents(db, events);
    made += events.length;
    tell(made);
  }
  const noted = made / ((performance.now() - began) / 1000);
  const countedFrom = performance.now();
  for (;;) {
    const counted = await inTransaction(store, (own) => countEvents(own, uuidv7(), COUNTED_TOGETHER));
    if (counted === 0) break;
  }
  const counted = made / ((performance.now() - countedFrom) / 1000);
  const hours = DAY_MS / HOUR_MS;
  const add = sql`ON DUPLICATE KEY UPDATE count = form_counts.count + VALUES(count)`;
  await db.execute(
    sql`INSERT INTO form_counts SELECT 1, own.dimension, own.source_id, own.stretch - back.seq * ${hours}, own.value, own.what, own.count
      FROM form_counts own JOIN ${sql.raw(`seq_1_to_${DAYS - 1}`)} back
      WHERE own.hours = 1 AND own.stretch >= ${day * hours} AND own.stretch < ${(day + 1) * hours} ${add}`,
  );
  await db.execute(sql`DELETE FROM form_counts WHERE hours > 1`);
  for (const long of STRETCHES.filter((one) => one > 1))
    await db.execute(
      sql`INSERT INTO form_counts SELECT ${long}, own.dimension, own.source_id, FLOOR(own.stretch / ${long}), own.value, own.what, own.count
        FROM form_counts own WHERE own.hours = 1 ${add}`,
    );
  await rowsOf(db, sql`ANALYZE TABLE form_events, form_counts`);
  return { noted, counted };
}

/** What happened at one showing of a form. */
function showing(sourceIds: string[], day: number, random: () => number): FormEvent[] {
  // The first of them most often, the last hardly ever.
  const oneOf = (count: number) => Math.floor(random() ** 3 * count);
  const at = day * DAY_MS + Math.floor(random() * DAY_MS);
  const chance = random() * 100;
  const isCampaign = random() < 0.2;
  const common = {
    subject: uuidv7(),
    sourceId: sourceIds[oneOf(SOURCES)] ?? '',
    at,
    page: `https://bench.example/stories/${oneOf(PAGES)}`,
    device: random() < 0.6 ? 'phone' : 'computer',
    campaign: isCampaign ? `c${oneOf(12)}` : '',
    source: isCampaign ? `letter ${oneOf(4)}` : '',
    medium: isCampaign ? 'email' : '',
    term: '',
    content: '',
    referrer: isCampaign ? '' : `site${oneOf(40)}.example`,
    cameBy: isCampaign ? 'mail' : 'referral',
    variant: '',
  };
  const event = (what: FormEvent['what'], question = ''): FormEvent => ({ ...common, what, question });
  return [
    event('shown'),
    ...(chance < STARTED ? [event('started')] : []),
    ...(chance < ANSWERED ? [event('answered', 'email'), event('answered', 'first')] : []),
    ...(chance < COMPLETED ? [event('completed'), event('took', '20')] : []),
  ];
}
