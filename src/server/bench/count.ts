import { randomUUID } from 'node:crypto';
import { besideBare } from './besideBare.ts';
import type { Comparison } from './compare.ts';
import { benchSetting } from './setting.ts';

const COUNT = 1_500;

/** Showings of a form that are noted: two events each, as a script on a page tells them. */
export async function benchCount(): Promise<Comparison> {
  const { context } = await benchSetting();
  const comparison = await besideBare(context, COUNT, {
    path: '/place/seen',
    status: 204,
    body: () =>
      JSON.stringify({
        form: 'bench',
        showing: randomUUID(),
        page: 'https://bench.example/stories/1?utm_campaign=autumn',
        referrer: 'https://friends.example/',
        events: [
          { what: 'shown', question: '' },
          { what: 'started', question: '' },
        ],
      }),
    headers: {
      'content-type': 'text/plain',
      'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/140.0 Safari/537.36',
    },
  });
  await context.store.pool.query('DELETE FROM form_events');
  return comparison;
}
