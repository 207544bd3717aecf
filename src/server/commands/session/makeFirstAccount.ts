import type { FirstAccount } from '../../../contract/session.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { hashPassword } from '../../security/passwords.ts';
import { sha256 } from '../../security/tokens.ts';
import { addAccount, isSetupLink, useSetupLink } from '../../store/accounts.ts';
import { done, inCommand, refused, type Refusal } from '../command.ts';

const used = () =>
  refused(
    'forbidden',
    'link-used',
    'This one-time link was used before, or is too old. Start Iwashi again to get a new one.',
  );

/** Makes the first account, by the one-time link that starting Iwashi printed. */
export async function makeFirstAccount(
  context: Context,
  { token, name, email, password }: FirstAccount,
): Promise<Result<{ id: string; name: string; email: string }, Refusal>> {
  const { newId, now } = context;
  const account = { id: newId(), name, email: email.trim().toLowerCase() };
  // Before the hash, which takes its time: nobody without the link has us make one.
  if (!(await isSetupLink(context.store.db, sha256(token), now()))) return used();
  const passwordHash = await hashPassword(password);
  return inCommand(context, { kind: 'person', id: account.id, name }, async (db) => {
    if (!(await useSetupLink(db, sha256(token), now()))) return used();
    await addAccount(db, { ...account, passwordHash, createdAt: now() });
    return done(account, { act: 'made', subject: { kind: 'account', id: account.id, name } });
  });
}
