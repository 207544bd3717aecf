import { createReadStream } from 'node:fs';
import { lstat, mkdir, readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { inBytes } from '../../core/values/index.ts';
import { isoDay } from '../../core/isoTime.ts';
import { codeOf } from '../connectors/exchange.ts';
import { download, saidOfFault } from '../connectors/download.ts';
import type { Context } from '../context.ts';
import { feedFolder } from '../importing/feeds.ts';
import { FileTooLarge, keepContent, plainName, uploadPath } from '../intake/uploads.ts';
import { noteAct } from '../store/audit.ts';
import { inTransaction } from '../store/database.ts';
import { endFeeding, noteBrought, takeFeed, type FeedRecord } from '../store/feeds.ts';
import { addImport, oldFedImports, removeImport, writtenBefore } from '../store/imports.ts';
import { findSource } from '../store/sources.ts';
import { runBeats } from './beats.ts';

const BEAT_MS = 1_000;
/** For so long a feed is a worker's that said nothing of it: longer than any file may take to come. */
const LEASE_MS = 20 * 60_000;
const FOLDER_EVERY_MS = 5_000;
/** A file that was changed since may still be being written. */
const AT_REST_MS = 3_000;
const MINUTE_MS = 60_000;
/** After how long an address is asked again that gave nothing; sooner where its turn comes sooner. */
const AGAIN_MS = 10 * MINUTE_MS;

/** So many files that came by themselves are kept of each source, once they are over; what their rows became stays. */
const KEPT_FILES = 20;

/** So many are looked at at the same time: an address that is slow holds up no other one. */
const AT_ONCE = 3;

/** Brings files that come by themselves: from addresses by the clock, from folders as they are put there. One worker at a time has a feed. */
export function runFeeds(context: Context): { stop(): Promise<void> } {
  const ended = new AbortController();
  const beats = Array.from({ length: AT_ONCE }, () =>
    runBeats(context, BEAT_MS, 'feeding', () => lookAtNext(context, ended.signal)),
  );
  return {
    async stop() {
      ended.abort();
      await Promise.all(beats.map((one) => one.stop()));
    },
  };
}

/** @returns whether there may be more to do at once */
async function lookAtNext(context: Context, ended: AbortSignal): Promise<boolean> {
  const { store, log, config } = context;
  const feed = await takeFeed(store.db, context.now(), LEASE_MS);
  if (!feed) return false;
  const problem = await look(context, feed, ended).catch((error: unknown) => {
    if (error instanceof FileTooLarge) return `The file is larger than ${inBytes(config.importBytes)}.`;
    if (!ended.aborted) log.error({ err: error }, 'feeding failed');
    return saidOfFault(codeOf(error));
  });
  const now = context.now();
  // What was broken off by the end of this worker is for the next one.
  if (ended.aborted && problem !== '') await endFeeding(store.db, feed, { problem: feed.problem, now, dueAt: now });
  else {
    const everyMs = feed.by === 'folder' ? FOLDER_EVERY_MS : feed.everyMinutes * MINUTE_MS;
    const restMs = problem === '' || feed.by === 'folder' ? everyMs : Math.min(AGAIN_MS, everyMs);
    await endFeeding(store.db, feed, { problem, now, dueAt: now + restMs });
  }
  return !ended.aborted;
}

/** @returns why nothing came; '' where nothing is the matter */
const look = (context: Context, feed: FeedRecord, ended: AbortSignal): Promise<string> =>
  feed.by === 'folder' ? lookIntoFolder(context, feed) : askAddress(context, feed, ended);

async function askAddress(context: Context, feed: FeedRecord, ended: AbortSignal): Promise<string> {
  const url = new URL(context.secrets.open(feed.address));
  const found = await download(url, context.config.allowPrivateAddresses, ended);
  if (!found.ok) return found.said;
  try {
    await bring(context, feed, nameIn(url), found.content);
    return '';
  } finally {
    await found.close();
  }
}

/** What the file at an address is called: the last part of its path. */
function nameIn({ pathname, hostname }: URL): string {
  const last = pathname.split('/').at(-1) ?? '';
  try {
    return decodeURIComponent(last) || hostname;
  } catch {
    return last;
  }
}

/** Brings the file that has been there for the longest, and takes it out of the folder. What is too large stays, and holds up nothing. */
async function lookIntoFolder(context: Context, feed: FeedRecord): Promise<string> {
  const { store, config, now } = context;
  const source = await findSource(store.db, feed.sourceId);
  if (!source) return '';
  const folder = feedFolder(context, source);
  await mkdir(folder, { recursive: true });
  const named = (await readdir(folder, { withFileTypes: true })).filter(
    (one) => one.isFile() && !/^\.|\.(part|tmp|partial)$/i.test(one.name),
  );
  const files = await Promise.all(
    named.map(async ({ name }) => {
      const { mtimeMs, size } = await lstat(path.join(folder, name));
      return { name, at: mtimeMs, isTooLarge: size > config.importBytes };
    }),
  );
  const [oldest] = files
    .filter(({ at, isTooLarge }) => !isTooLarge && at < now() - AT_REST_MS)
    .sort((a, b) => a.at - b.at);
  if (oldest) {
    const place = path.join(folder, oldest.name);
    await bring(context, feed, oldest.name, createReadStream(place));
    await rm(place, { force: true });
  }
  const [large] = files.filter(({ isTooLarge }) => isTooLarge);
  return large ? `“${large.name}” is larger than ${inBytes(config.importBytes)}, and stays in the folder.` : '';
}

/** Makes an import of a file, unless it is the very one that came the last time. */
async function bring(
  context: Context,
  { sourceId, by, lastHash, takes, evidence, perMinute }: FeedRecord,
  name: string,
  content: AsyncIterable<Uint8Array>,
): Promise<void> {
  const { store, config, newId, now } = context;
  const kept = await keepContent(context, content, config.importBytes);
  const source = await findSource(store.db, sourceId);
  if (kept.sha256 === lastHash || kept.size === 0 || !source) {
    await rm(uploadPath(context, kept.id), { force: true });
    return;
  }
  await inTransaction(store, async (db) => {
    // In one with the import: a worker that ends behind it does not have the same file brought twice.
    await noteBrought(db, sourceId, kept.sha256, now());
    await addImport(db, {
      id: newId(),
      sourceId,
      fileId: kept.id,
      name: plainName(name),
      size: kept.size,
      state: 'judging',
      fedBy: by,
      goesOn: takes,
      written: await writtenBefore(db, sourceId),
      columns: [],
      // They agreed on that day at the latest.
      evidence: { ...evidence, when: evidence.agreed === 'no' ? '' : isoDay(now()) },
      perMinute,
      counts: { taken: 0, refused: 0 },
      byName: 'Iwashi',
      createdAt: now(),
      dueAt: now(),
    });
    await noteAct(db, {
      id: newId(),
      at: now(),
      actorKind: 'iwashi',
      actorId: 'iwashi',
      actorName: 'Iwashi',
      act: 'brought a file',
      subjectKind: 'source',
      subjectId: sourceId,
      subjectName: source.name,
      detail: plainName(name),
    });
  });
  for (const old of await oldFedImports(store.db, sourceId, KEPT_FILES)) {
    await removeImport(store.db, old.id);
    await rm(uploadPath(context, old.fileId), { force: true });
  }
}
