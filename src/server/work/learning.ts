import { isPosted, asUsable, goneOf, learnFrom, jsonOf, type PostedDocument } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import { jsonIn } from '../intake/programBody.ts';
import { findSource } from '../store/sources.ts';
import { isOfItsOwn, listUnread, listUnreadWebhooks, readLearnt, saveLearnt } from '../store/webhooks.ts';

/** So many of what came to one address are read at each beat. */
const READ_TOGETHER = 1_000;

/** Learns what the payloads look like that come to addresses for programs, whatever became of them. */
export async function learnShapes({ store }: Context): Promise<void> {
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
    const payloads = [
      ...taken.flatMap(({ raw, arrivalId, at }) => {
        // Several submissions by one arrival share what came.
        if (raw.payload === null || (arrivalId !== null && read.has(arrivalId))) return [];
        if (arrivalId !== null) read.add(arrivalId);
        const { payload } = raw;
        return [{ at, json: jsonOf(payload) }];
      }),
      ...noted.filter(isOfItsOwn).flatMap(({ body, contentType, receivedAt }) => {
        const json = jsonIn(contentType, body);
        return json === undefined ? [] : [{ at: receivedAt, json }];
      }),
    ].sort((one, other) => one.at - other.at);
    for (const { json, at } of payloads) kinds = learnFrom(kinds, document, json, at);
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
