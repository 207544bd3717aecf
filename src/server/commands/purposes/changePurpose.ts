import type { PurposeDraft } from '../../../core/consent/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { changePurpose as store, findPurpose } from '../../store/purposes.ts';
import { done, inCommand, stale, unknown, type Actor, type Refusal } from '../command.ts';
import { nameTaken } from './naming.ts';

/** Changes name, wordings or channels. What people agreed to stays in the ledger as they saw it. */
export async function changePurpose(
  actor: Actor,
  context: Context,
  { id, revision, input }: { id: string; revision: number | null; input: PurposeDraft },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const before = await findPurpose(db, id);
    if (!before) return unknown('purpose');
    if (revision !== null && revision !== before.updatedAt) return stale();
    const { wordings, channels } = input;
    const name = input.name.trim();
    const taken = await nameTaken(db, name, id);
    if (taken) return taken;
    await store(db, id, { name, wordings, channels }, context.now());
    const added = wordings.filter((wording) => !before.wordings.includes(wording));
    const detail = [
      ...(name === before.name ? [] : [`It was ${before.name}.`]),
      ...added.map((wording) => `Agreed to by: "${wording}".`),
    ].join(' ');
    return done(undefined, { act: 'edited', subject: { kind: 'purpose', id, name }, detail });
  });
}
