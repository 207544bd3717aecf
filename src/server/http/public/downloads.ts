import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { languageFor } from '../../../core/forms/index.ts';
import { SHIPPED_FONTS, wordsIn } from '../../../forms/index.ts';
import type { Context } from '../../context.ts';
import { readDownload } from '../../intake/ownFiles.ts';
import { uploadPath } from '../../intake/uploads.ts';
import { noteProgress } from '../../store/counting.ts';
import { findOwnFile } from '../../store/ownFiles.ts';
import { sendFile } from '../sentFile.ts';
import { afterBreak, asked, organisationName } from './troubles.ts';
import { showPage } from './layout.ts';

/** What never changes at its address may be kept for good. */
const FOR_GOOD = 'public, max-age=31536000, immutable';

/** The packages that the fonts are shipped in. */
const PACKAGES = [
  '@fontsource-variable/source-sans-3',
  '@fontsource-variable/source-serif-4',
  '@fontsource/source-code-pro',
];

/** What forms show beside their HTML, and what they hand out: pictures, fonts, downloads. */
export function downloadRoutes(context: Context): Hono {
  const app = new Hono();
  app.onError(afterBreak(context));
  const { store, now } = context;

  app.get('/files/:id', async (c) => {
    const file = await findOwnFile(store.db, c.req.param('id'));
    // Other files are handed out to those who sent a form.
    if (!file || file.width === 0) return c.text('There is no such picture.', 404);
    const response = sendFile(c, uploadPath(context, file.id), file, 'inline');
    response.headers.set('cache-control', FOR_GOOD);
    response.headers.set('cross-origin-resource-policy', 'cross-origin');
    return response;
  });

  const { resolve } = createRequire(import.meta.url);
  const fonts = new Map<string, Buffer>();
  app.get('/fonts/:file', (c) => {
    const name = c.req.param('file');
    if (!SHIPPED_FONTS.some(({ file }) => file === name)) return c.text('There is no such font.', 404);
    const from = PACKAGES.find((one) => name.startsWith(one.split('/')[1] ?? one));
    const font = fonts.get(name) ?? readFileSync(resolve(`${from}/files/${name}`));
    fonts.set(name, font);
    return c.body(new Uint8Array(font), 200, {
      'content-type': 'font/woff2',
      'cache-control': FOR_GOOD,
      // Fonts are asked for with CORS, whatever page they are for (CSS Fonts 4, 4.8.2).
      'access-control-allow-origin': '*',
      'cross-origin-resource-policy': 'cross-origin',
      'x-content-type-options': 'nosniff',
    });
  });

  app.get('/download/:token', async (c) => {
    c.header('cache-control', 'no-store');
    c.header('referrer-policy', 'no-referrer');
    const handed = readDownload(context, c.req.param('token'));
    const file = handed?.file ? await findOwnFile(store.db, handed.file) : null;
    if (!handed || handed.until < now() || (handed.file !== '' && !file)) {
      const language = languageFor(asked(c));
      const say = wordsIn(language);
      const of = await organisationName(context);
      const body = html`<h1>${say('later.gone')}</h1>
        <p>${say('downloadGone')}</p>`;
      return showPage(c, { title: say('later.gone'), language, of, body, personal: true }, 410);
    }
    if (handed.submissionId !== '') await noteProgress(store.db, 'downloaded', [handed.submissionId]);
    return file ? sendFile(c, uploadPath(context, file.id), file, 'attachment') : c.redirect(handed.url, 302);
  });

  return app;
}
