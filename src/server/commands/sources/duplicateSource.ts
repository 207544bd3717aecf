import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { newPublicId } from '../../security/tokens.ts';
import { addSource, findSource } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

const LONGEST_NAME = 80;

/** Makes another source like one: its draft, at an address of its own, not live. @returns its id */
export async function duplicateSource(actor: Actor, context: Context, id: string): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, id);
    if (!source) return unknown('source');
    const { draft } = source;
    if (draft.kind === 'shop')
      return refused('conflict', 'one-only', 'A shop is one source: of what happens there, each thing counts once.');
    const name = `${source.name.slice(0, LONGEST_NAME - 7)}, copy`;
    const copy = newId();
    // What was found out of variants is of the form that they were shown in.
    const own = draft.kind === 'form' || draft.kind === 'chat' ? { ...draft, variants: [] } : draft;
    await addSource(db, { id: copy, publicId: newPublicId(), name, draft: own, now: now() });
    return done(copy, {
      act: 'made',
      subject: { kind: 'source', id: copy, name },
      detail: `A copy of ${source.name}.`,
    });
  });
}
