import type { PartIssue } from '../../contract/checks.ts';
import { addressesLedTo, type SourceDocument } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import { visitPage } from './visiting.ts';

/** What a server answers where there is nothing (RFC 9110, 15.5.5 and 15.5.11). Whatever else it answers may be a page for visitors. */
const NOTHING_THERE = new Set<string | number>([404, 410]);
/** So many addresses are visited, and so long is waited for them: whoever publishes waits for it. */
const MOST = 20;
const PATIENCE_MS = 5_000;

/** Visits the addresses to which a source leads its visitors. @returns those where nothing is; what does not answer is not among them */
export async function leadsNowhere(context: Context, document: SourceDocument): Promise<PartIssue[]> {
  const led = addressesLedTo(document).slice(0, MOST);
  if (led.length === 0) return [];
  const answers = new Map([...new Set(led.map(({ url }) => url))].map((url) => [url, visitPage(context, url)]));
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS).unref());
  const looked = await Promise.all(
    led.map(async ({ pointer, url }): Promise<PartIssue | null> => {
      const visit = await Promise.race([answers.get(url), late]);
      return visit && !visit.ok && NOTHING_THERE.has(visit.fault)
        ? { pointer, detail: `${url} answers ${visit.fault}: nothing is there.` }
        : null;
    }),
  );
  return looked.filter((issue) => issue !== null);
}
