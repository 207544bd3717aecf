import { and, asc, desc, eq, inArray, isNotNull, isNull, lte, sql } from 'drizzle-orm';
import type { MadeDocument, SourceDocument } from '../../core/intake/index.ts';
import { PUBLISHING, type PublishEvent } from '../../core/states/index.ts';
import { forgetCounts } from './counting.ts';
import { changedRows, countUpTo, type Db } from './database.ts';
import { keptForms, routeSources, sources, sourceVersions } from './schema/index.ts';
import { removeFeed } from './feeds.ts';
import { listImports, removeImport } from './imports.ts';
import { forgetConversations } from './chats.ts';
import { forgetMemberships } from './memberships.ts';
import { removeShop } from './shops.ts';
import { forgetWebhook } from './webhooks.ts';
import type { Versioned } from './versions.ts';

/** A source that an operator made. */
export interface SourceRecord extends Versioned<MadeDocument>, SourceTimes {
  /** Its part of the public address. */
  publicId: string;
}

interface SourceTimes {
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  createdAt: number;
  /** When its draft goes live by itself, and who said so; null for never. */
  publishAt: number | null;
  publishBy: string | null;
  /** null while it is in use. */
  archivedAt: number | null;
}

/** A source of any kind. */
export interface AnySourceRecord extends Versioned<SourceDocument>, SourceTimes {
  publicId: string;
}

const joined = (db: Db) =>
  db
    .select({ source: sources, live: sourceVersions.document, publishedAt: sourceVersions.publishedAt })
    .from(sources)
    .leftJoin(
      sourceVersions,
      and(eq(sourceVersions.sourceId, sources.id), eq(sourceVersions.version, sources.liveVersion)),
    );

type Joined = Awaited<ReturnType<typeof joined>>[number];

const toRecord = ({ source, live, publishedAt }: Joined): AnySourceRecord => ({
  ...source,
  live,
  publishedAt,
});

/** Those that operators made: what connected systems tell is no source to be edited, placed or wired. */
function made(record: AnySourceRecord): SourceRecord[] {
  const { draft, live, ...rest } = record;
  if (draft.kind === 'notices' || live?.kind === 'notices') return [];
  return [{ ...rest, draft, live }];
}

export async function listSources(db: Db): Promise<SourceRecord[]> {
  return (await joined(db).orderBy(asc(sources.createdAt))).map(toRecord).flatMap(made);
}

export async function findSource(db: Db, id: string): Promise<SourceRecord | null> {
  const [row] = await joined(db).where(eq(sources.id, id));
  return (row && made(toRecord(row))[0]) ?? null;
}

export async function findSourceByPublicId(db: Db, publicId: string): Promise<SourceRecord | null> {
  const found = await findAnySource(db, publicId);
  return (found && made(found)[0]) ?? null;
}

/** A source of any kind. */
export async function findAnySource(db: Db, publicId: string): Promise<AnySourceRecord | null> {
  const [row] = await joined(db).where(eq(sources.publicId, publicId));
  return row ? toRecord(row) : null;
}

/** What a source of any kind is called; '' when there is no such one. */
export async function readSourceName(db: Db, id: string): Promise<string> {
  const [row] = await db.select({ name: sources.name }).from(sources).where(eq(sources.id, id));
  return row?.name ?? '';
}

export async function readSourceVersion(db: Db, sourceId: string, version: number): Promise<SourceDocument | null> {
  const [row] = await db
    .select({ document: sourceVersions.document })
    .from(sourceVersions)
    .where(and(eq(sourceVersions.sourceId, sourceId), eq(sourceVersions.version, version)));
  return row?.document ?? null;
}

/** What was published of a source, the newest first. */
export const listSourceVersions = (db: Db, sourceId: string): Promise<{ version: number; publishedAt: number }[]> =>
  db
    .select({ version: sourceVersions.version, publishedAt: sourceVersions.publishedAt })
    .from(sourceVersions)
    .where(eq(sourceVersions.sourceId, sourceId))
    .orderBy(desc(sourceVersions.version));

/** When a source was first published; null where it never was. */
export async function firstPublishedAt(db: Db, sourceId: string): Promise<number | null> {
  const [row] = await db
    .select({ at: sourceVersions.publishedAt })
    .from(sourceVersions)
    .where(eq(sourceVersions.sourceId, sourceId))
    .orderBy(asc(sourceVersions.version))
    .limit(1);
  return row?.at ?? null;
}

export async function addSource(
  db: Db,
  source: { id: string; publicId: string; name: string; draft: SourceDocument; now: number },
): Promise<void> {
  const { now, ...rest } = source;
  await db.insert(sources).values({ ...rest, state: 'draft', draftAt: now, createdAt: now });
}

/**
 * Saves a draft.
 * @param revision when what it replaces was saved; null for whenever
 * @returns false when it is another one by now, and nothing was saved
 */
export async function saveSourceDraft(
  db: Db,
  id: string,
  draft: SourceDocument,
  revision: number | null,
  now: number,
): Promise<boolean> {
  const [result] = await db
    .update(sources)
    // Never the same time twice: it tells revisions apart.
    .set({ draft, draftAt: sql`GREATEST(${now}, draft_at + 1)` })
    .where(and(eq(sources.id, id), revision === null ? undefined : eq(sources.draftAt, revision)));
  return result.affectedRows === 1;
}

/** How many submissions came by a source, whatever became of them; of many only that there are more. */
export const countSubmissionsOf = (db: Db, id: string, most: number): Promise<number> =>
  countUpTo(db, most, sql`FROM submissions WHERE source_id = ${id}`);

/** Deletes a source by which nothing came, with what was counted of it. */
export async function removeSource(db: Db, id: string): Promise<void> {
  for (const record of await listImports(db, id)) await removeImport(db, record.id);
  await removeFeed(db, id);
  await forgetCounts(db, id);
  await forgetWebhook(db, id);
  await removeShop(db, id);
  await forgetMemberships(db, id);
  await forgetConversations(db, id);
  for (const table of [keptForms, routeSources, sourceVersions]) await db.delete(table).where(eq(table.sourceId, id));
  await db.delete(sources).where(eq(sources.id, id));
}

/** Says when a draft goes live by itself. @param at null for never */
export async function scheduleSource(db: Db, id: string, at: number | null, by: string | null): Promise<void> {
  await db.update(sources).set({ publishAt: at, publishBy: by }).where(eq(sources.id, id));
}

/** Takes the time at which a draft goes live. @returns false where it is another one by now */
export async function takeSchedule(db: Db, id: string, at: number): Promise<boolean> {
  const result = await db
    .update(sources)
    .set({ publishAt: null, publishBy: null })
    .where(and(eq(sources.id, id), eq(sources.publishAt, at)));
  return changedRows(result) === 1;
}

/** The sources whose drafts are to go live. */
export async function dueSources(db: Db, now: number): Promise<SourceRecord[]> {
  return (await joined(db).where(and(lte(sources.publishAt, now), isNull(sources.archivedAt))))
    .map(toRecord)
    .flatMap(made);
}

/** Puts a source aside for good, or takes it out again. @param at null to take it out */
export async function archiveSource(db: Db, id: string, at: number | null): Promise<boolean> {
  const result = await db
    .update(sources)
    .set({ archivedAt: at, publishAt: null, publishBy: null })
    .where(and(eq(sources.id, id), at === null ? isNotNull(sources.archivedAt) : isNull(sources.archivedAt)));
  return changedRows(result) === 1;
}

/** Moves a source on, where the event applies. @returns false where it does not, and nothing changed */
export async function moveSource(db: Db, id: string, event: PublishEvent): Promise<boolean> {
  const applies = and(eq(sources.id, id), inArray(sources.state, PUBLISHING.before(event)));
  const result = await db
    .update(sources)
    .set({ state: PUBLISHING.to(event) })
    .where(applies);
  return changedRows(result) === 1;
}

/** Freezes the draft as the next version and makes it live. */
export async function publishSource(
  db: Db,
  source: Pick<AnySourceRecord, 'id' | 'liveVersion' | 'draft'>,
  now: number,
): Promise<void> {
  const version = (source.liveVersion ?? 0) + 1;
  await db.insert(sourceVersions).values({ sourceId: source.id, version, document: source.draft, publishedAt: now });
  await db
    .update(sources)
    .set({ liveVersion: version, state: PUBLISHING.to('published'), publishAt: null, publishBy: null })
    .where(eq(sources.id, source.id));
}
