import type { Look } from '../../../core/forms/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { listSources, saveSourceDraft } from '../../store/sources.ts';
import { findTheme, saveTheme } from '../../store/themes.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

/**
 * Makes a theme, or changes one: then the drafts of the forms that have it look so, too. What is live stays as it is until it is
 * published.
 * @param theme.id null for a new one
 * @returns its id
 */
export async function keepTheme(
  actor: Actor,
  context: Context,
  { id: given, name, look }: { id: string | null; name: string; look: Look },
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    if (given !== null && !(await findTheme(db, given))) return unknown('theme');
    const id = given ?? newId();
    await saveTheme(db, { id, name, look, updatedAt: now() });
    const forms = (await listSources(db)).filter(({ draft }) => draft.kind === 'form' && draft.theme === id);
    for (const form of forms)
      if (form.draft.kind === 'form') await saveSourceDraft(db, form.id, { ...form.draft, look }, null, now());
    const subject = { kind: 'theme', id, name } as const;
    if (given === null) return done(id, { act: 'made', subject });
    const count = forms.length === 1 ? '1 form looks so' : `${forms.length} forms look so`;
    return done(id, { act: 'edited', subject, detail: `${count}, once published.` });
  });
}
