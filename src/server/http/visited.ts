import type { Context } from '../context.ts';
import { visitPage } from '../connecting/visiting.ts';
import { Problem } from './problems.ts';

/** The HTML of a page of the web. @param instead what somebody can paste where it cannot be had, such as "HTML"; '' for nothing */
export async function visited(context: Context, url: string, instead: string): Promise<string> {
  const page = await visitPage(context, url);
  if (page.ok) return page.html;
  const why = typeof page.fault === 'number' ? `answers with ${page.fault}` : `does not answer (${page.fault})`;
  const next = instead === '' ? 'Look whether it opens in a browser.' : `Paste its ${instead} instead.`;
  throw new Problem(422, 'invalid', `The page ${why}. ${next}`);
}
