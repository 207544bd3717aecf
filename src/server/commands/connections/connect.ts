import type { VerifyResult } from '../../../contract/connection.ts';
import type { Result } from '../../../core/result.ts';
import { isGrantedByPerson, saveConnection, verifyEntered, type Entered } from '../../connecting/adding.ts';
import { sayTrouble } from '../../connectors/verifying/typed.ts';
import type { Context } from '../../context.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';

/** Connects an account of another system: what was entered is verified, then saved. @returns the connection's id */
export async function connect(actor: Actor, context: Context, entered: Entered): Promise<Result<string, Refusal>> {
  const verified = isGrantedByPerson(entered.profile) ? null : await verifyEntered(context, entered);
  if (verified && !verified.result.ok) return notConnected(verified.result, verified.result.problem);
  return inCommand(context, actor, async (db) => {
    const id = await saveConnection(context, db, entered, verified);
    return done(id, { act: 'connected', subject: { kind: 'connection', id, name: entered.name } });
  });
}

/** What was entered does not let us in: said beside the part that has to be looked at. */
export function notConnected(result: Extract<VerifyResult, { ok: false }>, text: string): Result<never, Refusal> {
  const { about } = result;
  const pointer = about === 'baseUrl' || about === 'service' ? '/baseUrl' : `/credentials/${about}`;
  return refused('invalid', 'not-connected', text, [{ pointer, detail: sayTrouble(result) }]);
}
