import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Hono, type Context as HonoContext } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { forVisitor, insteadFor, withVariant } from '../../../core/forms/index.ts';
import { isOpenAt, type FormDocument } from '../../../core/intake/index.ts';
import {
  fontsOf,
  HOST_CSS,
  languageOf,
  prefixFor,
  printClosed,
  printFresh,
  printInstead,
  printPlaced,
} from '../../../forms/index.ts';
import type { PlacedForm, PlacedPart } from '../../../contract/placing.ts';
import type { Context } from '../../context.ts';
import { knownBySign } from '../../intake/visitors.ts';
import { writeLastScriptRequest } from '../../store/lastScriptRequest.ts';
import { downloadRoutes } from './downloads.ts';
import type { LiveSource, LiveSources } from './liveSources.ts';
import { problemResponse } from '../problems.ts';
import { keepToHttps } from '../safeHeaders.ts';
import { visitorAddress } from '../visitor.ts';
import { Pace, tooOften } from './pace.ts';
import { allowOrigin, isAllowedOrigin, originOf } from './origins.ts';

const SCRIPT_SECONDS = 300;
const SITE_SECONDS = 30;
const HEARD_EVERY_MS = 60_000;
const MOST_SITES = 1_000;
const SIGN_LIMIT_BYTES = 1_000;
const NOTHING = { html: '', css: '' };

/** The page that is its later goal; '' where none is. */
const goalPageOf = ({ goal, goalPage }: Pick<FormDocument, 'goal' | 'goalPage'>): string =>
  goal === 'reached' ? goalPage : '';

/**
 * What the script on pages of others asks for: itself, which forms show themselves on a site, and each form.
 * @param perMinute how often one address may say who it is in a minute
 */
export function placeRoutes(context: Context, live: LiveSources, perMinute: number): Hono {
  const app = new Hono();
  const { config, now } = context;
  const pace = new Pace(perMinute);

  for (const name of ['script.js', 'own.js', 'chat.js'])
    app.get(`/${name}`, (c) => {
      c.header('content-type', 'text/javascript; charset=utf-8');
      c.header('cache-control', `public, max-age=${SCRIPT_SECONDS}`);
      c.header('cross-origin-resource-policy', 'cross-origin');
      c.header('x-content-type-options', 'nosniff');
      return c.body(readFileSync(path.join(config.root, 'dist/embed', name), 'utf8'));
    });

  const dress = (c: HonoContext, seconds: number) => {
    allowOrigin(c);
    // What is answered is for the site that asks, also where it does not say so.
    c.header('vary', 'origin');
    c.header('cache-control', `public, max-age=${seconds}`);
    keepToHttps(c, config.publicUrl);
    c.header('x-content-type-options', 'nosniff');
  };

  app.get('/site.json', async (c) => {
    const origin = originOf(c);
    dress(c, SITE_SECONDS);
    await heard(origin);
    const sources = await live.all();
    return c.json(sources.flatMap((source) => placed(source, origin)) satisfies PlacedForm[]);
  });

  /** Notes that the script is on a site, now and then. */
  const heardAt = new Map<string, number>();
  async function heard(origin: string): Promise<void> {
    const at = now();
    if (!/^https?:/.test(origin) || at - (heardAt.get(origin) ?? 0) < HEARD_EVERY_MS) return;
    if (heardAt.size >= MOST_SITES) heardAt.clear();
    heardAt.set(origin, at);
    await writeLastScriptRequest(context.store.db, origin, at);
  }

  /** A form that shows itself, on the site that asks. */
  function placed({ live: document, publicId }: LiveSource, origin: string): PlacedForm[] {
    if (document.kind === 'chat')
      return isAllowedOrigin(document, origin, config.publicUrl)
        ? [
            {
              id: publicId,
              title: document.title || document.launcher,
              presentation: 'chat',
              showing: document.showing,
              variants: document.variants.map(({ id, share, nothing }) => ({ id, share, nothing })),
              goalPage: goalPageOf(document),
            },
          ]
        : [];
    if (document.kind !== 'form' || !isOpenAt(document.open, now())) return [];
    const { title, button, presentation, showing } = document;
    if (presentation === 'inline' && showing.placeAt === '') return [];
    return isAllowedOrigin(document, origin, config.publicUrl)
      ? [{ id: publicId, title: title || button, presentation, showing }]
      : [];
  }

  /** A form for one visitor. @param sign by which they are known; '' for nobody in particular */
  async function part(c: HonoContext, publicId: string, sign: string): Promise<Response> {
    const source = await live.find(publicId);
    if (source?.live.kind !== 'form') return c.json({ title: 'There is no such form.' }, 404);
    const variant = c.req.query('variant') ?? '';
    const document = withVariant(source.live, variant);
    if (!isAllowedOrigin(document, originOf(c), config.publicUrl))
      return c.json({ title: 'This form does not show itself on this site.' }, 403);
    dress(c, SITE_SECONDS);
    c.header('vary', 'origin, accept-language');
    const language = languageOf(document, c.req.header('accept-language') ?? '');
    const prefix = prefixFor(publicId);
    const known = sign === '' ? {} : await knownBySign(context, sign);
    const instead = insteadFor(document, known);
    const inside = !isOpenAt(document.open, now())
      ? printClosed(prefix, document.look, language, document.closedText)
      : instead
        ? printInstead(prefix, document, language, instead)
        : printFresh(
            `${config.publicUrl}/in/${publicId}`,
            forVisitor(document, known),
            language,
            source.liveVersion ?? 0,
          );
    const isNothing = !instead && source.live.variants.some(({ id, nothing }) => id === variant && nothing);
    const { html, css } = isNothing ? NOTHING : printPlaced(prefix, document, language, inside);
    const version = source.liveVersion ?? 0;
    const variants = document.variants.map(({ id, share }) => ({ id, share }));
    return c.json({
      html,
      css: `${HOST_CSS}\n${css}`,
      instead: instead !== null,
      variants,
      goalPage: goalPageOf(document),
      fonts: fontsOf(document.look),
      version,
    } satisfies PlacedPart);
  }

  app.route('/', downloadRoutes(context));

  const nameOf = (c: HonoContext): string => (c.req.param('file') ?? '').replace(/\.json$/, '');
  app.get('/:file{.+\\.json}', (c) => part(c, nameOf(c), ''));
  // The sign is in the body, since addresses are kept by many; as plain text, since that asks nobody's leave beforehand.
  app.post('/:file{.+\\.json}', bodyLimit({ maxSize: SIGN_LIMIT_BYTES }), async (c) => {
    const wait = await pace.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const response = await part(c, nameOf(c), await c.req.text());
    response.headers.set('cache-control', 'no-store');
    return response;
  });

  return app;
}
