import { appendFile, mkdir, truncate } from 'node:fs/promises';
import path from 'node:path';
import type { FileReading } from '../../contract/imports.ts';
import { openShop, saidOf } from '../connecting/shops.ts';
import { readCustomers } from '../connectors/shop.ts';
import type { Context } from '../context.ts';
import { uploadPath } from '../intake/uploads.ts';
import { advanceImport, moveImport, type ImportRecord } from '../store/imports.ts';
import { findSource } from '../store/sources.ts';
import { UnreadableFile } from '../importing/rows.ts';

/** After how long a shop is asked again that did not answer. */
const AGAIN_MS = 5_000;

/** How what was fetched is read: a customer in each line. */
const READING: FileReading = {
  format: 'lines',
  encoding: 'utf-8',
  delimiter: ',',
  header: true,
  because: 'It was fetched from the shop.',
};

/**
 * Fetches the next page of all customers of a shop into the import's file. Where it is, is noted after each page, so that a worker that
 * ends in the middle of one has it fetched again; a shop that does not answer is asked again.
 */
export async function fetchPart(context: Context, record: ImportRecord): Promise<void> {
  const { store, now } = context;
  const source = await findSource(store.db, record.sourceId);
  if (source?.draft.kind !== 'shop') throw new UnreadableFile('Its source is gone.');
  const { next, count, bytes } = record.fetched ?? { next: null, count: 0, bytes: 0 };
  const opened = await openShop(context, source.draft.connectionId);
  const later = (problem: string) =>
    advanceImport(store.db, record, { problem, dueAt: now() + AGAIN_MS, leaseUntil: 0 }).then(() => undefined);
  if (!opened.ok) return later(saidOf(opened.fault));
  const { shop, line } = opened.value;
  if (!shop.customers) throw new UnreadableFile('This kind of shop does not hand out its customers.');
  const reply = await readCustomers(line, shop.customers, { next, page: record.done });
  if (!reply.ok) return later(saidOf(reply.fault));
  const place = uploadPath(context, record.fileId);
  await mkdir(path.dirname(place), { recursive: true });
  // What another worker wrote of this page, and could not say, is written again.
  await appendFile(place, '');
  await truncate(place, bytes);
  const text = reply.value.customers.map((one) => `${JSON.stringify(one)}\n`).join('');
  await appendFile(place, text);
  const fetched = {
    next: reply.value.next,
    count: count + reply.value.customers.length,
    bytes: bytes + Buffer.byteLength(text),
  };
  if (fetched.next !== null) {
    await advanceImport(store.db, record, { fetched, done: record.done + 1, problem: '', leaseUntil: 0 });
    return;
  }
  await moveImport(store.db, record.id, 'fetched', now(), {
    fetched,
    size: fetched.bytes,
    reading: READING,
    problem: '',
    done: 0,
  });
}
