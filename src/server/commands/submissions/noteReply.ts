import { spanOf } from '../../../core/insight/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { noteProgress } from '../../store/counting.ts';
import { findSubmission, noteReplied } from '../../store/submissions.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** Notes that somebody answered the person, outside of here: the first answer counts. */
export async function noteReply(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const submission = await findSubmission(db, id);
    if (!submission) return unknown('submission');
    const at = context.now();
    if (!(await noteReplied(db, id, at, nameOf(actor))))
      return refused('conflict', 'answered-before', `${submission.repliedBy ?? 'Somebody'} answered it before.`);
    await noteProgress(db, 'replied', [id], spanOf((at - submission.receivedAt) / 1000));
    return done(undefined, { act: 'answered', subject: { kind: 'submission', id, name: '' } });
  });
}
