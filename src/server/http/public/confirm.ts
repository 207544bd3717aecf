import { Hono, type Context as HonoContext } from 'hono';
import { html } from 'hono/html';
import { languageFor } from '../../../core/forms/index.ts';
import { wordsIn, type Say } from '../../../forms/index.ts';
import type { Context } from '../../context.ts';
import { confirm, readConfirmation, type ConfirmationStanding } from '../../commands/confirmations/confirm.ts';
import { visitorAddress } from '../visitor.ts';
import { readOrganisationNames } from '../../store/organisation.ts';
import { afterBreak } from './troubles.ts';
import { showPage, type Html } from './layout.ts';

/** The page behind a confirmation link. Opening it changes nothing, since mail scanners open links; its button does. */
export function confirmRoutes(context: Context): Hono {
  const app = new Hono();
  app.onError(afterBreak(context));
  const answer = async (c: HonoContext, standing: ConfirmationStanding, pressed: boolean) => {
    const language = languageFor(c.req.header('accept-language') ?? '');
    const [of = ''] = await readOrganisationNames(context.store.db);
    const { title, body, status } = said(standing, pressed, wordsIn(language));
    return showPage(c, { title, body, language, of, personal: true }, status);
  };
  app.get('/:token', async (c) => answer(c, await readConfirmation(context, c.req.param('token')), false));
  app.post('/:token', async (c) => {
    const evidence = {
      'user agent': (c.req.header('user-agent') ?? '').slice(0, 300),
      address: visitorAddress(c, context.config.trustedProxies),
    };
    return answer(c, await confirm(context, c.req.param('token'), evidence), true);
  });
  return app;
}

interface Said {
  title: string;
  body: Html;
  status: number;
}

function said(standing: ConfirmationStanding, pressed: boolean, say: Say): Said {
  const plain = (title: string, text: string, status: number): Said => ({
    title,
    body: html`<h1>${title}</h1>
      <p>${text}</p>`,
    status,
  });
  switch (standing.kind) {
    case 'unknown':
      return plain(say('confirm.unknown'), say('confirm.unknownText'), 404);
    case 'expired':
      return plain(say('confirm.expired'), say('confirm.expiredText'), 410);
    case 'withdrawn':
      return plain(say('confirm.withdrawn'), say('confirm.withdrawnText', { about: standing.about }), 410);
    case 'confirmed':
      return pressed
        ? plain(say('confirm.done'), say('confirm.doneText', { about: standing.about }), 200)
        : plain(say('confirm.before'), say('confirm.beforeText', { about: standing.about }), 200);
    case 'pending': {
      const { sentTo, mail } = standing.confirmation;
      const body = html`<h1>${say('confirm.title')}</h1>
        <p>${say('confirm.text', { address: sentTo, about: standing.about })}</p>
        <form method="post"><button type="submit">${mail.button}</button></form>
        <p class="later">${say('confirm.notYou')}</p>`;
      return { title: say('confirm.title'), body, status: 200 };
    }
    default:
      return standing satisfies never;
  }
}
