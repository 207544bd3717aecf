import { isObject } from '../../../core/documents/index.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { listConnections } from '../../store/connections.ts';
import { addRoute } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';

/**
 * Makes a route out of a file that was exported, here or elsewhere. It is a draft; what it refers to is found by its name.
 * @param input.refers what the file says of the ids in it
 * @returns its id
 */
export async function importRoute(
  actor: Actor,
  context: Context,
  { name, document, refers }: { name: string; document: RouteDocument; refers: unknown },
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  const meant = readRefers(refers);
  return inCommand(context, actor, async (db) => {
    const sources = await listSources(db);
    const connections = await listConnections(db);
    const draft = {
      ...document,
      sourceIds: document.sourceIds.flatMap((source) =>
        hereFor(source, sources, ({ name: own }) => own === meant.sources[source]),
      ),
      targets: document.targets.map((target) => {
        const other = meant.connections[target.connectionId];
        const [connectionId = ''] = hereFor(
          target.connectionId,
          connections,
          (own) => own.name === other?.name && own.profile === other.profile,
        );
        return { ...target, connectionId };
      }),
    };
    const id = newId();
    await addRoute(db, { id, name, draft, now: now() });
    return done(id, { act: 'imported', subject: { kind: 'route', id, name } });
  });
}

/** What an id of a file is here: itself, or the only thing that is like it; nothing when there is none, or several are. */
function hereFor<Thing extends { id: string }>(
  id: string,
  things: Thing[],
  isLike: (thing: Thing) => boolean,
): string[] {
  if (things.some((thing) => thing.id === id)) return [id];
  const like = things.filter(isLike);
  return like.length === 1 ? like.map((thing) => thing.id) : [];
}

/** What a file says of the ids in it; nothing where it says nothing that can be read. */
function readRefers(refers: unknown) {
  const of = (part: string): Record<string, unknown> =>
    isObject(refers) && isObject(refers[part]) ? refers[part] : {};
  const connections = Object.entries(of('connections')).flatMap(([id, one]) =>
    isObject(one) ? [[id, { name: String(one.name), profile: String(one.profile) }] as const] : [],
  );
  return { sources: of('sources'), connections: Object.fromEntries(connections) };
}
