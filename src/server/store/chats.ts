import { and, asc, between, desc, eq, gt, gte, inArray, isNull, like, lt, lte, max, ne, or, sql } from 'drizzle-orm';
import { CHATTING, type ChatEvent, type ChatStatus } from '../../core/states/index.ts';
import { beginning, changedRows, insertRows, type Db } from './database.ts';
import { chatLines, conversations, sources } from './schema/index.ts';

export type ConversationRecord = typeof conversations.$inferSelect;
export type ChatLineRecord = typeof chatLines.$inferSelect;

export async function addConversation(
  db: Db,
  record: typeof conversations.$inferInsert,
  lines: ChatLineRecord[],
): Promise<void> {
  await db.insert(conversations).values(record);
  await insertRows(db, chatLines, lines);
}

/** The conversation of a token. @param lock until the transaction ends, so that what is said comes one after the other */
export async function findByToken(db: Db, tokenHash: string, lock = false): Promise<ConversationRecord | null> {
  const query = db.select().from(conversations).where(eq(conversations.tokenHash, tokenHash));
  const [row] = lock ? await query.for('update') : await query;
  return row ?? null;
}

export async function findConversation(db: Db, id: string, lock = false): Promise<ConversationRecord | null> {
  const query = db.select().from(conversations).where(eq(conversations.id, id));
  const [row] = lock ? await query.for('update') : await query;
  return row ?? null;
}

/** Adds lines to a conversation, and changes what belongs to it. */
export async function addLines(
  db: Db,
  id: string,
  lines: ChatLineRecord[],
  part: Partial<typeof conversations.$inferInsert>,
): Promise<void> {
  await insertRows(db, chatLines, lines);
  await db.update(conversations).set(part).where(eq(conversations.id, id));
}

/** Moves a conversation on, where the event applies. @returns false where it does not, and nothing changed */
export async function moveConversation(
  db: Db,
  id: string,
  event: ChatEvent,
  part: Partial<typeof conversations.$inferInsert> = {},
): Promise<boolean> {
  const result = await db
    .update(conversations)
    .set({ ...part, status: CHATTING.to(event) })
    .where(and(eq(conversations.id, id), inArray(conversations.status, CHATTING.before(event))));
  return changedRows(result) === 1;
}

/** What was said, from a line on. @param after the number of the last one that is known; 0 for none */
export const readLines = (db: Db, id: string, after: number, most: number): Promise<ChatLineRecord[]> =>
  db
    .select()
    .from(chatLines)
    .where(and(eq(chatLines.conversationId, id), gt(chatLines.number, after)))
    .orderBy(asc(chatLines.number))
    .limit(most);

/** Breaks off a conversation, unless somebody said something in it meanwhile. @returns false where it goes on */
export async function breakOff(db: Db, id: string, now: number): Promise<boolean> {
  const result = await db
    .update(conversations)
    .set({ status: CHATTING.to('broke off'), touchedAt: now })
    .where(
      and(
        eq(conversations.id, id),
        inArray(conversations.status, CHATTING.before('broke off')),
        lte(conversations.breaksOffAt, now),
      ),
    );
  return changedRows(result) === 1;
}

/** After which conversation a list goes on: those that were touched later stand before it. */
export interface AfterConversation {
  touchedAt: number;
  id: string;
}

/** Conversations with their last line, the last touched first. @param statuses those of these; none for all @param after null for the first */
export async function listConversations(
  db: Db,
  statuses: ChatStatus[],
  most: number,
  after: AfterConversation | null = null,
) {
  return db
    .select({
      conversation: conversations,
      sourceName: sources.name,
      last: sql<
        string | null
      >`(SELECT l.text FROM chat_lines l WHERE l.conversation_id = ${conversations.id} ORDER BY l.number DESC LIMIT 1)`,
    })
    .from(conversations)
    .innerJoin(sources, eq(sources.id, conversations.sourceId))
    .where(
      and(
        statuses.length === 0 ? undefined : inArray(conversations.status, statuses),
        after === null
          ? undefined
          : or(
              lt(conversations.touchedAt, after.touchedAt),
              and(eq(conversations.touchedAt, after.touchedAt), lt(conversations.id, after.id)),
            ),
      ),
    )
    .orderBy(desc(conversations.touchedAt), desc(conversations.id))
    .limit(most);
}

/** So many conversations are looked through at once: the lines of them that people wrote, one after the other. */
const LOOKED_TOGETHER = 4_000;
/** So many are found at once. */
const FOUND_TOGETHER = 100;

/**
 * Conversations in which somebody said something with all of these words, each with the last such line, those first that began last: a part of
 * all at a time, however many there are.
 * @param before the last one that was looked through; null to begin
 * @returns also the last that was looked through, behind which it goes on; null at the end. And how many were looked through, where that ended it
 */
export async function searchConversations(db: Db, words: string[], before: string | null) {
  const part = await db
    .select({ id: conversations.id })
    .from(conversations)
    .where(before === null ? undefined : lt(conversations.id, before))
    .orderBy(desc(conversations.id))
    .limit(LOOKED_TOGETHER);
  const [first, last] = [part[0]?.id, part.at(-1)?.id];
  if (first === undefined || last === undefined) return { found: [], next: null, looked: null };
  const newest = db
    .select({ id: chatLines.conversationId, number: max(chatLines.number).as('newest') })
    .from(chatLines)
    .where(
      and(
        between(chatLines.conversationId, last, first),
        ne(chatLines.by, 'us'),
        ...words.map((word) => like(chatLines.text, `%${beginning(word)}`)),
      ),
    )
    .groupBy(chatLines.conversationId)
    .orderBy(desc(chatLines.conversationId))
    .limit(FOUND_TOGETHER)
    .as('newest_lines');
  const found = await db
    .select({ conversation: conversations, sourceName: sources.name, line: chatLines })
    .from(newest)
    .innerJoin(chatLines, and(eq(chatLines.conversationId, newest.id), eq(chatLines.number, newest.number)))
    .innerJoin(conversations, eq(conversations.id, newest.id))
    .innerJoin(sources, eq(sources.id, conversations.sourceId))
    .orderBy(desc(conversations.id));
  if (found.length === FOUND_TOGETHER) return { found, next: found.at(-1)?.conversation.id ?? null, looked: null };
  const isMore = part.length === LOOKED_TOGETHER;
  return { found, next: isMore ? last : null, looked: isMore ? part.length : null };
}

/**
 * Conversations for which nobody came, that broke off, or that are over without having become anything.
 * Each is asked for by itself, since each has an index of its own.
 * @param most of each
 */
export async function dueConversations(db: Db, now: number, most: number): Promise<ConversationRecord[]> {
  const open: ChatStatus[] = ['talking', 'wanted', 'taken'];
  const over: ChatStatus[] = ['ended', 'broken off'];
  const due = [
    and(eq(conversations.status, 'wanted'), lte(conversations.wantedUntil, now)),
    and(inArray(conversations.status, open), lte(conversations.breaksOffAt, now)),
    and(isNull(conversations.submissionId), inArray(conversations.status, over), lte(conversations.restUntil, now)),
  ];
  const found = new Map<string, ConversationRecord>();
  for (const which of due)
    for (const record of await db.select().from(conversations).where(which).limit(most)) found.set(record.id, record);
  return [...found.values()];
}

/** Lets a conversation rest of which nothing could be made: others do not wait for it. */
export async function restConversation(db: Db, id: string, until: number): Promise<void> {
  await db.update(conversations).set({ restUntil: until }).where(eq(conversations.id, id));
}

/** The conversations that were touched since a moment, by their ids: with a mark that is another one after each change. */
export async function touchedSince(db: Db, since: number): Promise<Map<string, string>> {
  const { id, touchedAt, lines, status } = conversations;
  const rows = await db
    .select({ id, touchedAt, lines, status })
    .from(conversations)
    .where(gte(touchedAt, since))
    .limit(5_000);
  return new Map(rows.map((row) => [row.id, `${row.touchedAt} ${row.lines} ${row.status}`]));
}

/** The conversation that a submission came of; null for others. */
export async function conversationOf(db: Db, submissionId: string): Promise<ConversationRecord | null> {
  const [row] = await db.select().from(conversations).where(eq(conversations.submissionId, submissionId));
  return row ?? null;
}

export async function forgetConversations(db: Db, sourceId: string): Promise<void> {
  await db.execute(
    sql`DELETE l FROM chat_lines l JOIN conversations c ON c.id = l.conversation_id WHERE c.source_id = ${sourceId}`,
  );
  await db.delete(conversations).where(eq(conversations.sourceId, sourceId));
}
