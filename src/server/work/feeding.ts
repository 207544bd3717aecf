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
import { endFeeding, takeFeed, type FeedRecord } from '../store/feeds.ts';
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

/** Brings files that come by themselves: from addresses by the clock, from folders as they are put there. One worker at a time has a feed. */
export const runFeeds = (context: Context): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'feeding', async () => {
    const feed = await takeFeed(context.store.db, context.now(), LEASE_MS);
    if (!feed) return false;
    const { hash, problem } = await look(context, feed).catch((error: unknown) => {
      if (error instanceof FileTooLarge)
        return { hash: '', problem: `The file is larger than ${inBytes(context.config.importBytes)}.` };
      context.log.error({ err: error }, 'feeding failed');
      return { hash: '', problem: saidOfFault(codeOf(error)) };
    });
    const now = context.now();
    const everyMs = feed.by === 'folder' ? FOLDER_EVERY_MS : feed.everyMinutes * MINUTE_MS;
    const restMs = problem === '' || feed.by === 'folder' ? everyMs : Math.min(AGAIN_MS, everyMs);
    await endFeeding(context.store.db, feed, { hash, problem, now, dueAt: now + restMs });
    return true;
  });

interface Looked {
  /** Of what it brought; '' for nothing. */
  hash: string;
  problem: string;
}

const look = (context: Context, feed: FeedRecord): Promise<Looked> =>
  feed.by === 'folder' ? lookIntoFolder(context, feed) : askAddress(context, feed);

async function askAddress(context: Context, feed: FeedRecord): Promise<Looked> {
  const url = new URL(context.secrets.open(feed.address));
  const found = await download(url, context.config.allowPrivateAddresses);
  if (!found.ok) return { hash: '', problem: found.said };
  try {
    const name = decodeURIComponent(url.pathname.split('/').at(-1) ?? '') || url.hostname;
    return { hash: await bring(context, feed, name, found.content), problem: '' };
  } finally {
    await found.close();
  }
}

/** Brings the file that has been there for the longest, and takes it out of the folder. */
async function lookIntoFolder(context: Context, feed: FeedRecord): Promise<Looked> {
  const source = await findSource(context.store.db, feed.sourceId);
  if (!source) return { hash: '', problem: '' };
  const folder = feedFolder(context, source);
  await mkdir(folder, { recursive: true });
  const files = (await readdir(folder, { withFileTypes: true })).filter(
    (one) => one.isFile() && !/^\.|\.(part|tmp|partial)$/i.test(one.name),
  );
  const times = await Promise.all(
    files.map(async ({ name }) => ({ name, at: (await lstat(path.join(folder, name))).mtimeMs })),
  );
  const [oldest] = times.filter(({ at }) => at < context.now() - AT_REST_MS).sort((a, b) => a.at - b.at);
  if (!oldest) return { hash: '', problem: '' };
  const place = path.join(folder, oldest.name);
  const hash = await bring(context, feed, oldest.name, createReadStream(place));
  await rm(place, { force: true });
  return { hash, problem: '' };
}

/** Makes an import of a file, unless it is the very one that came the last time. @returns what it is known by; '' where it is that one */
async function bring(
  context: Context,
  { sourceId, by, lastHash, takes, evidence, perMinute }: FeedRecord,
  name: string,
  content: AsyncIterable<Uint8Array>,
): Promise<string> {
  const { store, config, newId, now } = context;
  const kept = await keepContent(context, content, config.importBytes);
  const source = await findSource(store.db, sourceId);
  if (kept.sha256 === lastHash || kept.size === 0 || !source) {
    await rm(uploadPath(context, kept.id), { force: true });
    return '';
  }
  await inTransaction(store, async (db) => {
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
  return kept.sha256;
}
