import { Hono } from 'hono';
import { LookFromInput, ThemeInput, type ThemeView } from '../../../contract/themes.ts';
import { keepTheme } from '../../commands/themes/keepTheme.ts';
import { removeTheme } from '../../commands/themes/removeTheme.ts';
import { visitSheets } from '../../connecting/visiting.ts';
import type { Context } from '../../context.ts';
import { listSources } from '../../store/sources.ts';
import { listThemes } from '../../store/themes.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { mustRead, notFound, readInput } from '../problems.ts';
import { visited } from '../visited.ts';

/** Looks that several forms share, and looks that are read from pages. */
export function themeRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function views(): Promise<ThemeView[]> {
    const sources = await listSources(store.db);
    return (await listThemes(store.db)).map(({ updatedAt, ...theme }) => ({
      ...theme,
      updatedAt: new Date(updatedAt).toISOString(),
      forms: sources.flatMap(({ id, name, draft }) =>
        draft.kind === 'form' && draft.theme === theme.id ? [{ id, name }] : [],
      ),
    }));
  }
  async function viewOf(id: string): Promise<ThemeView> {
    const view = (await views()).find((one) => one.id === id);
    if (!view) throw notFound('theme');
    return view;
  }

  app.get('/', allow('sources:read'), async (c) => c.json(await views()));
  app.post('/', allow('sources:write'), async (c) => {
    const { name, look } = await readInput(c, ThemeInput);
    return c.json(await viewOf(outcome(await keepTheme(c.get('actor'), context, { id: null, name, look }))), 201);
  });
  app.put('/:id', allow('sources:write'), async (c) => {
    const { name, look } = await readInput(c, ThemeInput);
    const id = outcome(await keepTheme(c.get('actor'), context, { id: c.req.param('id'), name, look }));
    return c.json(await viewOf(id));
  });
  app.delete('/:id', allow('sources:write'), async (c) => {
    outcome(await removeTheme(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  /** Proposes a look by a page of the web, or by CSS. */
  app.post('/found', allow('sources:write'), async (c) => {
    const { css, url } = await readInput(c, LookFromInput);
    const { reading } = context;
    if (css !== '') return c.json(mustRead(await reading.read('look', { html: '', sheets: [css] })));
    const page = await visited(context, url, 'CSS');
    const sheets = await visitSheets(context, mustRead(await reading.read('sheetNames', { html: page, url })));
    const texts = sheets.map(({ css: sheet }) => sheet);
    return c.json(mustRead(await reading.read('look', { html: page, sheets: texts })));
  });

  return app;
}
