import { Hono } from 'hono';
import { EntryInput, type EntryKind } from '../../../contract/entries.ts';
import { nameEntry } from '../../commands/entries/nameEntry.ts';
import type { Context } from '../../context.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { readInput } from '../problems.ts';

const LISTS = { source: 'sources', route: 'routes', connection: 'connections' } as const;

/** What is the same for the entries of every list: their lines, their names, their folders. */
export function entryRoutes(
  context: Context,
  kind: EntryKind,
  lines: (context: Context) => Promise<object[]>,
): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/lines', allow(`${LISTS[kind]}:read`), async (c) => c.json(await lines(context)));
  app.put('/:id/name', allow(`${LISTS[kind]}:write`), async (c) => {
    const { name, folder } = await readInput(c, EntryInput);
    outcome(await nameEntry(c.get('actor'), context, { kind, id: c.req.param('id'), name, folder }));
    return c.body(null, 204);
  });
  return app;
}
