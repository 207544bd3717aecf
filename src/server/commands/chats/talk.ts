import { good, type Result } from '../../../core/result.ts';
import { submitConversation, goOn, lineBase } from '../../chatting/conversations.ts';
import type { Context } from '../../context.ts';
import { addLines, findConversation, moveConversation } from '../../store/chats.ts';
import { readSourceName } from '../../store/sources.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

const notNow = () => refused('conflict', 'not-now', 'It has gone on meanwhile: look at it once more.');

/** A colleague takes over a conversation: from now on they answer, and nobody else. */
export const takeOver = (actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> =>
  inCommand(context, actor, async (db) => {
    const record = await findConversation(db, id, true);
    if (!record) return unknown('conversation');
    const part = { colleague: nameOf(actor), wantedUntil: null, touchedAt: context.now() };
    if (!(await moveConversation(db, id, 'was taken', part))) return notNow();
    const name = await readSourceName(db, record.sourceId);
    return done(undefined, { act: 'took over', subject: { kind: 'source', id: record.sourceId, name } });
  });

/** A colleague says something in a conversation that they took over. */
export const reply = (
  actor: Actor,
  context: Context,
  { id, text }: { id: string; text: string },
): Promise<Result<void, Refusal>> =>
  inCommand(context, actor, async (db) => {
    const record = await findConversation(db, id, true);
    if (!record) return unknown('conversation');
    if (record.status !== 'taken') return refused('conflict', 'not-taken', 'Take it over first.');
    const at = context.now();
    const { conversationId, from } = lineBase(record, at);
    const line = {
      conversationId,
      number: from + 1,
      by: 'colleague' as const,
      name: nameOf(actor),
      text,
      link: null,
      at,
    };
    await addLines(db, id, [line], { lines: from + 1, touchedAt: at, colleague: nameOf(actor) });
    return done(undefined, null);
  });

/** A colleague has the chat go on by itself. */
export async function giveBack(context: Context, id: string): Promise<Result<void, Refusal>> {
  const record = await findConversation(context.store.db, id);
  if (!record) return unknown('conversation');
  if (record.status !== 'taken') return notNow();
  await goOn(context, id, 'colleague left');
  return good(undefined);
}

/** A colleague ends a conversation. */
export async function endTalk(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const outcome = await inCommand<undefined>(context, actor, async (db) => {
    const record = await findConversation(db, id, true);
    if (!record) return unknown('conversation');
    const part = { state: { ...record.state, at: null }, touchedAt: context.now() };
    if (!(await moveConversation(db, id, 'came to its end', part))) return notNow();
    const name = await readSourceName(db, record.sourceId);
    return done(undefined, { act: 'ended a conversation of', subject: { kind: 'source', id: record.sourceId, name } });
  });
  if (outcome.ok) await submitConversation(context, id);
  return outcome;
}
