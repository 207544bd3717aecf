import { LEADS_NOWHERE } from '../../../core/intake/index.ts';
import type { Result } from '../../../core/result.ts';
import { leadsNowhere } from '../../connecting/leading.ts';
import type { Context } from '../../context.ts';
import { dueSources, findSource, publishSource as store, takeSchedule } from '../../store/sources.ts';
import { done, inCommand, IWASHI, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { keptFromLive } from './keptFromLive.ts';
import { agreeBy, keptByWords, type AgreedBy } from './wordsOf.ts';

/**
 * Freezes the draft as the next version and makes it live, unless something in it keeps it from that.
 * @param due for which time somebody said so; absent for now
 * @param agreed of which new words in it somebody says what they are for
 * @param anyway whether it goes live though it leads visitors to pages that are not there; what somebody set for a time does
 */
export async function publishSource(
  actor: Actor,
  context: Context,
  id: string,
  {
    due,
    agreed = [],
    anyway = false,
  }: { due?: { at: number; by: string }; agreed?: AgreedBy[]; anyway?: boolean } = {},
): Promise<Result<void, Refusal>> {
  if (!due && !anyway) {
    const draft = (await findSource(context.store.db, id))?.draft;
    const gone = draft ? await leadsNowhere(context, draft) : [];
    if (gone.length > 0)
      return refused('invalid', LEADS_NOWHERE, 'It would lead visitors to a page that is not there.', gone);
  }
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    const kept = keptFromLive(source);
    if (kept) return kept;
    await agreeBy(db, agreed, context.now());
    const undecided = await keptByWords(db, source);
    if (undecided) return undecided;
    // Another worker may have done it meanwhile.
    if (due && !(await takeSchedule(db, id, due.at))) return done(undefined, null);
    await store(db, source, context.now());
    const version = `Version ${(source.liveVersion ?? 0) + 1}`;
    const words = agreed.map(({ wording }) => ` Agreed to by: "${wording}".`).join('');
    const detail = due ? `${version}, at the time that ${due.by} set.` : `${version}.${words}`;
    return done(undefined, { act: 'published', subject: { kind: 'source', id, name: source.name }, detail });
  });
}

/** Makes the drafts live whose time has come. What cannot go live yet does so once it is mended. */
export async function publishDue(context: Context): Promise<void> {
  for (const { id, publishAt, publishBy } of await dueSources(context.store.db, context.now()))
    if (publishAt !== null)
      await publishSource(IWASHI, context, id, { due: { at: publishAt, by: publishBy ?? 'somebody' } });
}
