import { besideBare } from './besideBare.ts';
import type { Comparison } from './compare.ts';
import { benchSetting, visitorEntries } from './setting.ts';

const COUNT = 1_500;

/** Form posts accepted. No worker runs meanwhile. */
export async function benchAccept(): Promise<Comparison> {
  const { context } = await benchSetting();
  const comparison = await besideBare(context, COUNT, {
    path: '/in/bench',
    status: 303,
    body: () => new URLSearchParams(visitorEntries()).toString(),
    headers: { 'content-type': 'application/x-www-form-urlencoded', accept: 'text/html' },
  });
  await context.store.pool.query("DELETE FROM submissions WHERE state = 'received'");
  return comparison;
}
