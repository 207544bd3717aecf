import { submitConversation, goOn } from '../chatting/conversations.ts';
import type { Context } from '../context.ts';
import { breakOff, dueConversations, restConversation, type ConversationRecord } from '../store/chats.ts';
import { runBeats } from './beats.ts';

const BEAT_MS = 1_000;
const TOGETHER = 50;
/** After so long one that failed is tried again. */
const REST_MS = 10 * 60_000;

/** Ends what broke off, goes on where no colleague came, and makes submissions of what ended and has none yet. */
export const runChats = (context: Context): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'looking after conversations', async () => {
    const { store, now, log } = context;
    const due = await dueConversations(store.db, now(), TOGETHER);
    let done = 0;
    for (const record of due)
      try {
        if (await workOn(context, record)) done += 1;
      } catch (error) {
        // The others do not wait for one of which nothing can be made; it is tried again after a while.
        log.error({ err: error, conversation: record.id }, 'a conversation could not be gone on with');
        await restConversation(store.db, record.id, now() + REST_MS);
      }
    return done >= TOGETHER;
  });

/** @returns whether something was done */
async function workOn(context: Context, record: ConversationRecord): Promise<boolean> {
  const { store, now } = context;
  if (record.status === 'wanted' && (record.wantedUntil ?? 0) <= now()) {
    await goOn(context, record.id, 'nobody came');
    return true;
  }
  if (record.status !== 'ended' && record.status !== 'broken off')
    if (!(await breakOff(store.db, record.id, now()))) return false;
  await submitConversation(context, record.id);
  return true;
}
