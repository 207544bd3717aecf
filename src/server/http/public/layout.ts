import type { Context as HonoContext } from 'hono';
import { html, raw } from 'hono/html';
import type { FormLanguage, Look } from '../../../core/forms/index.ts';
import { printFontFaces } from '../../../forms/index.ts';
import { newToken } from '../../security/tokens.ts';

export type Html = ReturnType<typeof html>;

export interface PublicPage {
  title: string;
  language: FormLanguage;
  body: Html;
  /** Whose page it is, as people know them; '' while nobody said. */
  of?: string;
  /** Further style, such as that of a form. */
  css?: string;
  /** How the form on it looks, so that the page around it goes with it. */
  look?: Look;
  /** Where what is on it may be sent to, beside our own address. */
  sendsTo?: string;
  /** Which sites may show it in a frame: sources as CSP has them. */
  framedBy?: string;
  /** A script of ours that runs on it; '' for none. */
  runs?: string;
  /** Whether somebody's data are on it, which nothing may keep a copy of. */
  personal?: boolean;
}

/** In a frame, the page tells how high it is, so that the frame can be as high: see embed/frames.ts. */
const TELLS_HEIGHT = `if(parent!==window)new ResizeObserver(function(){parent.postMessage({iwashiHeight:document.documentElement.offsetHeight},'*')}).observe(document.documentElement)`;

/**
 * A public page: neutral, readable without script, of the customer rather than of ours. Nothing is styled or runs on it but what
 * this answer itself says (Content Security Policy Level 3, 6.1 and 6.4).
 */
export function showPage(c: HonoContext, shown: PublicPage, status = 200): Response | Promise<Response> {
  const { sendsTo = '', framedBy = "'self'", personal = false, runs = '' } = shown;
  const isFramed = framedBy !== "'self'";
  // In a frame it is a part of the page around it (W3C Fetch Metadata Request Headers, 2.1).
  const inFrame = isFramed && /^i?frame$/.test(c.req.header('sec-fetch-dest') ?? '');
  if (isFramed) c.header('vary', 'sec-fetch-dest', { append: true });
  const nonce = newToken();
  c.header(
    'content-security-policy',
    [
      "default-src 'none'",
      `style-src 'nonce-${nonce}'`,
      ...(isFramed || runs !== '' ? [`script-src 'nonce-${nonce}'`] : []),
      ...(runs === '' ? [] : ["connect-src 'self'"]),
      'img-src https: http: data:',
      "font-src 'self'",
      "base-uri 'none'",
      `form-action 'self'${sendsTo === '' ? '' : ` ${sendsTo}`}`,
      `frame-ancestors ${framedBy}`,
    ].join('; '),
  );
  // What is said once, and by a nonce, is not said again out of a store; and not to people of another language.
  c.header('cache-control', personal ? 'no-store' : 'no-cache');
  c.header('vary', 'accept-language', { append: true });
  c.header('x-content-type-options', 'nosniff');
  return c.html(page(shown, nonce, { isFramed, inFrame }), status as 200);
}

function page(
  { title, language, body, of = '', css = '', look, runs = '' }: PublicPage,
  nonce: string,
  { isFramed, inFrame }: { isFramed: boolean; inFrame: boolean },
) {
  return html`<!doctype html>
    <html lang="${language}">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex" />
        <title>${of === '' ? title : title === '' ? of : `${title} · ${of}`}</title>
        <style nonce="${nonce}">
          ${raw(look ? `${printFontFaces(look, '')}${surroundings(look, inFrame)}` : NEUTRAL)}
          ${raw(inFrame ? `${STYLE}${IN_FRAME}` : STYLE)}
          ${raw(css)}
        </style>
      </head>
      <body>
        ${of === '' || inFrame ? '' : html`<header>${of}</header>`}
        <main>${body}</main>
        ${runs === '' ? '' : html`<script nonce="${nonce}" src="${runs}"></script>`}
        ${
          isFramed
            ? html`<script nonce="${nonce}">
                ${raw(TELLS_HEIGHT)};
              </script>`
            : ''
        }
      </body>
    </html>`;
}

const NEUTRAL = `
:root { color-scheme: light dark; --page-ink: #1d2529; --page-quiet: #4c585e; --page-ground: #ffffff; --page-action: #21525b; --page-on-action: #ffffff; }
@media (prefers-color-scheme: dark) { :root { --page-ink: #e8edef; --page-quiet: #b0bbc0; --page-ground: #14191c; --page-action: #9fd3dc; --page-on-action: #0c2226; } }`;

const coloursOf = ({ ink, quiet, ground, action, onAction }: Look['colours']): string =>
  `:root{--page-ink:${ink};--page-quiet:${quiet};--page-ground:${ground || '#ffffff'};--page-action:${action};--page-on-action:${onAction}}`;

/** A frame shows what is behind it only where its page is of the same scheme as the one around it (CSS Color Adjustment 1, 2.4). */
const surroundings = ({ colours, night }: Look, inFrame: boolean): string =>
  night === null
    ? coloursOf(colours)
    : `${coloursOf(colours)}@media (prefers-color-scheme:dark){${coloursOf(night)}${inFrame ? '' : ':root{color-scheme:dark}'}}`;

const STYLE = `
body { margin: 0; font: 1rem/1.5 system-ui, sans-serif; color: var(--page-ink); background: var(--page-ground); }
header { max-width: 36rem; margin: 0 auto; padding: 1.5rem 1.25rem 0; color: var(--page-quiet); font-weight: 600; }
main { max-width: 36rem; margin: 0 auto; padding: 1.5rem 1.25rem 4rem; }
main > h1 { font-size: 1.5rem; line-height: 1.25; margin: 0 0 1rem; }
main > p { margin: 0 0 1rem; }
main > form button { font: inherit; font-weight: 600; padding: .7rem 1.4rem; min-height: 44px; border: 0; border-radius: 4px; background: var(--page-action); color: var(--page-on-action); cursor: pointer; }
a { color: var(--page-action); }
:focus-visible { outline: 3px solid var(--page-action); outline-offset: 2px; }
.later { margin-top: 1.5rem; }
`;

/** In a frame the ground is that of the page around it, and there is but room for the mark of what is focused. */
const IN_FRAME = `
body { background: transparent; }
main { max-width: none; padding: 6px; }
`;
