import { Hono } from 'hono';
import { PurposeInput, type PurposeView } from '../../../contract/purposes.ts';
import { addPurpose } from '../../commands/purposes/addPurpose.ts';
import { archivePurpose } from '../../commands/purposes/archivePurpose.ts';
import { changePurpose } from '../../commands/purposes/changePurpose.ts';
import type { Context } from '../../context.ts';
import { findPurpose, listPurposes, type PurposeRecord } from '../../store/purposes.ts';
import { asksFor, listRoutes } from '../../store/routes.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, readInput, revisionIn } from '../problems.ts';

/** What people can consent to. */
export function purposeRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function views(records: PurposeRecord[]): Promise<PurposeView[]> {
    const routes = await listRoutes(store.db);
    return records.map(({ createdAt: _, updatedAt, ...purpose }) => ({
      ...purpose,
      updatedAt: new Date(updatedAt).toISOString(),
      routes: routes.filter((route) => asksFor(route, purpose.id)).map(({ id, name, state }) => ({ id, name, state })),
    }));
  }
  async function viewOf(id: string): Promise<PurposeView> {
    const found = await findPurpose(store.db, id);
    const [view] = await views(found ? [found] : []);
    if (!view) throw notFound('purpose');
    return view;
  }

  app.get('/', allow('purposes:read'), async (c) => c.json(await views(await listPurposes(store.db))));

  app.post('/', allow('purposes:write'), async (c) => {
    const id = outcome(await addPurpose(c.get('actor'), context, await readInput(c, PurposeInput)));
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id', allow('purposes:write'), async (c) => {
    const id = c.req.param('id');
    const input = await readInput(c, PurposeInput);
    outcome(await changePurpose(c.get('actor'), context, { id, revision: revisionIn(c), input }));
    return c.json(await viewOf(id));
  });

  for (const [path, archived] of [
    ['/:id/archive', true],
    ['/:id/restore', false],
  ] as const)
    app.post(path, allow('purposes:write'), async (c) => {
      const id = c.req.param('id');
      outcome(await archivePurpose(c.get('actor'), context, { id, archived }));
      return c.json(await viewOf(id));
    });

  return app;
}
