import type { PurposeDraft } from '../../../core/consent/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { addPurpose as store } from '../../store/purposes.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';
import { nameTaken } from './naming.ts';

/** Makes something that people can consent to. @returns its id */
export async function addPurpose(
  actor: Actor,
  context: Context,
  { name, wordings, channels }: PurposeDraft,
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    const taken = await nameTaken(db, name, null);
    if (taken) return taken;
    const id = newId();
    await store(db, { id, name: name.trim(), wordings, channels, now: now() });
    return done(id, { act: 'made', subject: { kind: 'purpose', id, name: name.trim() } });
  });
}
