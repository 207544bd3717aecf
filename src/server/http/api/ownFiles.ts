import { Hono } from 'hono';
import type { OwnFileView } from '../../../contract/ownFiles.ts';
import { addOwnFile } from '../../commands/ownFiles/addOwnFile.ts';
import { removeOwnFile } from '../../commands/ownFiles/removeOwnFile.ts';
import type { Context } from '../../context.ts';
import { formsWith } from '../../intake/ownFiles.ts';
import { listOwnFiles } from '../../store/ownFiles.ts';
import { listSources } from '../../store/sources.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { fileNameIn } from '../sentFile.ts';
import { notFound, Problem } from '../problems.ts';

/** Pictures and other files of the organisation's own. */
export function ownFileRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function views(): Promise<OwnFileView[]> {
    const sources = await listSources(store.db);
    return (await listOwnFiles(store.db)).map(({ id, name, mediaType, size, width, height, addedAt }) => ({
      id,
      name,
      mediaType,
      size,
      width,
      height,
      addedAt: new Date(addedAt).toISOString(),
      forms: formsWith(sources, id),
    }));
  }

  app.get('/', allow('sources:read'), async (c) => c.json(await views()));
  /** The body is the file. */
  app.post('/', allow('sources:write'), async (c) => {
    const { body } = c.req.raw;
    if (!body) throw new Problem(422, 'invalid', 'There is no file in it.');
    const id = outcome(await addOwnFile(c.get('actor'), context, { name: fileNameIn(c), content: body }));
    const view = (await views()).find((one) => one.id === id);
    if (!view) throw notFound('file');
    return c.json(view, 201);
  });
  app.delete('/:id', allow('sources:write'), async (c) => {
    outcome(await removeOwnFile(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  return app;
}
