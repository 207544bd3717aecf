import { Hono, type Context as HonoContext } from 'hono';
import { html } from 'hono/html';
import type { Context } from '../../context.ts';
import { confirm, readConfirmation, type ConfirmationStanding } from '../../commands/confirmations/confirm.ts';
import { visitorAddress } from '../visitor.ts';
import { page } from './layout.ts';

/** The page behind a confirmation link. Opening it changes nothing, since mail scanners open links; its button does. */
export function confirmRoutes(context: Context): Hono {
  const app = new Hono();
  app.use(async (c, next) => {
    await next();
    c.header('cache-control', 'no-store');
  });
  app.get('/:token', async (c) => show(c, await readConfirmation(context, c.req.param('token')), false));
  app.post('/:token', async (c) => {
    const evidence = {
      'user agent': (c.req.header('user-agent') ?? '').slice(0, 300),
      address: visitorAddress(c, context.config.trustedProxies),
    };
    return show(c, await confirm(context, c.req.param('token'), evidence), true);
  });
  return app;
}

function show(c: HonoContext, standing: ConfirmationStanding, pressed: boolean) {
  switch (standing.kind) {
    case 'unknown':
      return c.html(
        page(
          'Link not known',
          html`<h1>This link is not known</h1>
            <p>It may have been cut off when it was copied. Open it from the mail once more, or sign up again.</p>`,
        ),
        404,
      );
    case 'expired':
      return c.html(
        page(
          'Link expired',
          html`<h1>This link has expired</h1>
            <p>It was not confirmed in time, so nothing was done. To get a new link, please sign up again.</p>`,
        ),
        410,
      );
    case 'confirmed':
      return c.html(
        page(
          'Confirmed',
          pressed
            ? html`<h1>Thank you, that is confirmed</h1>
                <p>You agreed to: ${standing.about}. You can close this page.</p>`
            : html`<h1>Already confirmed</h1>
                <p>You confirmed this before (${standing.about}). There is nothing more to do.</p>`,
        ),
      );
    case 'pending':
      return c.html(
        page(
          'Please confirm',
          html`<h1>Please confirm</h1>
            <p>Press the button to confirm for ${standing.confirmation.sentTo}: ${standing.about}.</p>
            <form method="post"><button type="submit">${standing.confirmation.mail.button}</button></form>
            <p style="margin-top:1.5rem">Not you? Then close this page; nothing will be sent to you.</p>`,
        ),
      );
    default:
      return standing satisfies never;
  }
}
