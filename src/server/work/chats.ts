import { conclude, goOn } from '../chatting/conversations.ts';
import type { Context } from '../context.ts';
import { breakOff, dueConversations } from '../store/chats.ts';
import { runBeats } from './beats.ts';

const BEAT_MS = 1_000;
const TOGETHER = 50;

/** Ends what broke off, goes on where no colleague came, and makes submissions of what ended and has none yet. */
export const runChats = (context: Context): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'looking after conversations', async () => {
    const { store, now } = context;
    const due = await dueConversations(store.db, now(), TOGETHER);
    let done = 0;
    for (const record of due) {
      if (record.status === 'wanted' && (record.wantedUntil ?? 0) <= now()) {
        await goOn(context, record.id, 'nobody came');
        done += 1;
        continue;
      }
      if (record.status !== 'ended' && record.status !== 'broken off')
        if (!(await breakOff(store.db, record.id, now()))) continue;
      await conclude(context, record.id);
      done += 1;
    }
    return done >= TOGETHER;
  });
