import { isPosted, asUsable, goneOf, learnFrom, jsonOf, type PostedDocument } from '../../core/intake/index.ts';
import { TooManySteps } from '../../core/json/index.ts';
import type { Context } from '../context.ts';
import { jsonIn } from '../intake/programBody.ts';
import { findSource } from '../store/sources.ts';
import { isOfItsOwn, listUnread, listUnreadWebhooks, readLearnt, saveLearnt } from '../store/webhooks.ts';

/** So many of what came to one address are read at each beat. */
const READ_TOGETHER = 1_000;

/** Learns what the payloads look like that come to addresses for programs, whatever became of them. */
export async function learnShapes(context: Context): Promise<void> {
  const { store } = context;
  for (const id of await listUnreadWebhooks(store.db)) {
    const before = await readLearnt(store.db, id);
    const { taken, noted } = await listUnread(store.db, before, READ_TOGETHER);
    const [lastTaken, lastNoted] = [taken.at(-1), noted.at(-1)];
    if (!lastTaken && !lastNoted) continue;
    const source = await findSource(store.db, id);
    if (!source || !isPosted(source.draft)) continue;
    const document = asUsable((source.live ?? source.draft) as PostedDocument);
    let { kinds } = before;
    const read = new Set<string>();
    const payloads: { at: number; json: unknown }[] = [];
    for (const { raw, arrivalId, at } of taken) {
      // Several submissions by one arrival share what came.
      if (raw.payload === null || (arrivalId !== null && read.has(arrivalId))) continue;
      if (arrivalId !== null) read.add(arrivalId);
      payloads.push({ at, json: jsonOf(raw.payload) });
    }
    for (const { body, contentType, receivedAt } of noted.filter(isOfItsOwn)) {
      const json = await jsonIn(context, contentType, body);
      if (json !== undefined) payloads.push({ at: receivedAt, json });
    }
    payloads.sort((one, other) => one.at - other.at);
    for (const { json, at } of payloads)
      try {
        kinds = learnFrom(kinds, document, json, at);
      } catch (error) {
        // Nothing is learnt of one in which its paths cannot be followed; it keeps nobody from learning of the next.
        if (!(error instanceof TooManySteps)) throw error;
      }
    // Another worker may have read the same meanwhile: then its reading stands.
    await saveLearnt(store.db, before, {
      sourceId: id,
      submissionId: lastTaken?.id ?? before.submissionId,
      notedId: lastNoted?.id ?? before.notedId,
      kinds,
      gone: goneOf(kinds),
    });
  }
}
