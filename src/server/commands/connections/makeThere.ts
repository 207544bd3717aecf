import type { MakingInput } from '../../../contract/connection.ts';
import { namesakeOf } from '../../../core/plan/index.ts';
import { good, type Result } from '../../../core/result.ts';
import { checkConnection } from '../../connecting/checking.ts';
import { connectorFor, openAccess, partsFor } from '../../connecting/open.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** What was made, in the order asked for, up to what could not be. */
export interface Made {
  ids: string[];
  /** Why the one after those was not made; null when all were. */
  trouble: string | null;
}

/** Makes lists, groups, tags or fields in another system, and fetches what it offers anew. */
export async function makeThere(
  actor: Actor,
  context: Context,
  { id, makings }: { id: string; makings: MakingInput[] },
): Promise<Result<Made, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const opened = await openAccess(context, connection);
  if (!opened.ok) return refused('invalid', 'not-made', opened.fault.said);
  const connector = connectorFor(partsFor(context, opened.value));
  const ids: string[] = [];
  let trouble: string | null = null;
  for (const making of makings) {
    const { what, list, kind, type, choices } = making;
    const name = making.name.trim();
    const namesake = connection.catalogue && namesakeOf(connection.catalogue, { what, name, list, kind });
    if (namesake !== null) {
      trouble = `There is a ${what} called "${namesake}" there already: choose that one, or give this one another name.`;
      break;
    }
    const made = await connector.make({ what, name, list, kind, type, choices });
    if (made.ok) ids.push(made.value);
    else trouble = `"${name}" was not made there: ${made.fault.said || made.fault.cause}.`;
    if (trouble !== null) break;
  }
  if (ids.length === 0) {
    const why = trouble ?? '';
    return refused('invalid', 'not-made', why, [{ pointer: '/name', detail: why }]);
  }
  const subject = { kind: 'connection', id, name: connection.name } as const;
  const what = makings.slice(0, ids.length).map((making) => `The ${making.what} ${making.name.trim()}.`);
  const note = noteOf(context, actor, { act: 'made there', subject, detail: what.join(' ') });
  await checkConnection(context, connection, true, note);
  return good({ ids, trouble });
}
