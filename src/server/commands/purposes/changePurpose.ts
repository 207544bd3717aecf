import type { Purpose, PurposeDraft } from '../../../core/consent/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { changePurpose as store, findPurpose } from '../../store/purposes.ts';
import { done, inCommand, refused, stale, unknown, type Actor, type Refusal } from '../command.ts';
import { newWords } from '../../../core/plan/index.ts';
import type { Db } from '../../store/database.ts';
import { listRoutes } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
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
    const gone = before.wordings.filter((wording) => !wordings.includes(wording));
    const using = gone.length === 0 ? [] : await sourcesThatNeed(db, { ...before, wordings });
    if (using.length > 0)
      return refused(
        'conflict',
        'words-in-use',
        'These words are what people agree to now.',
        using.map(({ source, wording }) => ({
          pointer: '/wordings',
          detail: `“${wording}” stands in ${source}, which is live. Change it there first, or keep the words here.`,
        })),
      );
    await store(db, id, { name, wordings, channels }, context.now());
    const added = wordings.filter((wording) => !before.wordings.includes(wording));
    const detail = [
      ...(name === before.name ? [] : [`It was ${before.name}.`]),
      ...added.map((wording) => `Agreed to by: "${wording}".`),
    ].join(' ');
    return done(undefined, { act: 'edited', subject: { kind: 'purpose', id, name }, detail });
  });
}

/** Live sources whose words would be ones that nobody decided on, were a purpose as it is given. */
async function sourcesThatNeed(db: Db, purpose: Purpose): Promise<{ source: string; wording: string }[]> {
  const [sources, routes] = await Promise.all([listSources(db), listRoutes(db)]);
  const live = routes.flatMap(({ name, state, live: document }) =>
    state === 'live' && document ? [{ name, document }] : [],
  );
  return sources.flatMap(({ id, name, state, live: document }) =>
    state === 'live' && document
      ? newWords(
          document,
          live.filter((route) => route.document.sourceIds.includes(id)),
          [purpose],
        ).map(({ wording }) => ({ source: name, wording }))
      : [],
  );
}
