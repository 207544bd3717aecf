import type { OrganisationView } from '../../../contract/organisation.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { readOrganisationNames, writeOrganisationNames } from '../../store/organisation.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';

/** Says by which names people know whoever asks them, so that sentences and mails can be checked for them. */
export const nameOrganisation = (
  actor: Actor,
  context: Context,
  input: OrganisationView,
): Promise<Result<string[], Refusal>> =>
  inCommand(context, actor, async (db) => {
    const before = await readOrganisationNames(db);
    const names = [...new Set(input.names.map((name) => name.trim()))].filter((name) => name !== '');
    if (names.join('\n') === before.join('\n')) return done(names, null);
    await writeOrganisationNames(db, names);
    const subject = { kind: 'organisation' as const, id: 'organisation', name: names[0] ?? '' };
    return done(names, { act: 'renamed', subject, detail: names.length === 0 ? 'No name is left.' : names.join(', ') });
  });
