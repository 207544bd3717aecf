import type { sheetsOf } from '../../core/formats/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import type { Context } from '../context.ts';

/** A page of the web as anybody gets it who asks for it; nothing on it is run. */
export type Visit = { ok: true; html: string; policy: string } | { ok: false; fault: string | number };

/** @returns the page; else why there is none: what went wrong on the way, or with which status it answers */
export const visitPage = async (context: Context, url: string): Promise<Visit> =>
  read(await fetched(context, url, 'text/html'));

/** So many style sheets of a page are read at most. */
const MOST_SHEETS = 12;

/** Style sheets that a page names or has in it, in their order; '' where there is none to be had. */
export const visitSheets = (
  context: Context,
  named: ReturnType<typeof sheetsOf>,
): Promise<{ url: string; css: string }[]> =>
  Promise.all(
    named.slice(0, MOST_SHEETS).map(async (sheet) => {
      if ('css' in sheet) return { url: '', css: sheet.css };
      const found = read(await fetched(context, sheet.url, 'text/css'));
      return { url: sheet.url, css: found.ok ? found.html : '' };
    }),
  );

async function fetched({ send }: Context, url: string, accept: string): Promise<Answer> {
  const { answer } = await send({
    method: 'GET',
    url,
    headers: { accept },
    secret: { headers: [], query: [], path: false },
    pool: 'pages of others',
    atOnce: 2,
    isPage: true,
  });
  return answer;
}

function read(answer: Answer): Visit {
  if (answer.kind !== 'answered') return { ok: false, fault: answer.fault };
  if (answer.status >= 300) return { ok: false, fault: answer.status };
  const html = typeof answer.body === 'string' ? answer.body : '';
  return { ok: true, html, policy: answer.headers['content-security-policy'] ?? '' };
}
