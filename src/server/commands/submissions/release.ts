import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { releaseSubmission } from '../../store/submissions.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';

/** Releases a submission that was taken for a robot's, or has one planned again that failed. */
export async function release(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const outcome = await releaseSubmission(db, id, context.now());
    if (outcome === 'neither') return refused('conflict', 'not-set-aside', 'It was released already.');
    const again = 'The person sent the same again, and that one was taken: nothing is missing.';
    if (outcome === 'came again') return refused('conflict', 'came-again', again);
    return done(undefined, { act: 'released', subject: { kind: 'submission', id, name: '' } });
  });
}
