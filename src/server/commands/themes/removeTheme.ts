import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { dropTheme, findTheme } from '../../store/themes.ts';
import { done, inCommand, unknown, type Actor, type Refusal } from '../command.ts';

/** Removes a theme. Forms that have it keep their look. */
export async function removeTheme(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const theme = await findTheme(db, id);
    if (!theme) return unknown('theme');
    await dropTheme(db, id);
    return done(undefined, { act: 'removed', subject: { kind: 'theme', id, name: theme.name } });
  });
}
