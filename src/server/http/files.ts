import { Hono } from 'hono';
import { html } from 'hono/html';
import type { Context } from '../context.ts';
import { uploadPath } from '../intake/uploads.ts';
import { findUpload } from '../store/uploads.ts';
import { signedIn } from './api/session.ts';
import { showPage } from './public/layout.ts';
import { CHALLENGE } from './safeHeaders.ts';
import { sendFile } from './sentFile.ts';

/** Files that visitors handed over, for signed-in people only, and always as downloads: a browser never opens one here. */
export function fileRoutes(context: Context): Hono {
  const app = new Hono();
  app.get('/:id', async (c) => {
    c.header('cache-control', 'private, no-store');
    if (!(await signedIn(context, c))) {
      for (const [name, value] of Object.entries(CHALLENGE)) c.header(name, value);
      const body = html`<h1>Sign in first</h1>
        <p>This file was handed over by a visitor. <a href="/">Sign in</a>, then open the link again.</p>`;
      return showPage(c, { title: 'Sign in first', language: 'en', body, personal: true }, 401);
    }
    const upload = await findUpload(context.store.db, c.req.param('id'));
    if (!upload) {
      const body = html`<h1>This file is gone</h1>
        <p>It was deleted with the submission that it came with, or never was here.</p>`;
      return showPage(c, { title: 'Gone', language: 'en', body, personal: true }, 404);
    }
    return sendFile(c, uploadPath(context, upload.id), upload, 'attachment');
  });
  return app;
}
