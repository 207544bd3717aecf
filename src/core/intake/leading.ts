import { answersIn } from '../forms/index.ts';
import type { SourceDocument } from './source.ts';

/** Under which names an address stands to which visitors are led: by an ending, its link or download, a chat's link. */
const LEADS = new Set(['next', 'url', 'link']);
const WEB = /^https?:\/\//i;

/** Why a source is not published that somebody can publish all the same. */
export const LEADS_NOWHERE = 'leads-nowhere';

/**
 * Every address that a source leads its visitors to, with where it stands in it (RFC 6901). Answers that stand behind its
 * question mark are left out; an address with answers in its path is another one for each visitor, and is not among them.
 */
export function addressesLedTo(document: SourceDocument): { pointer: string; url: string }[] {
  if (document.kind !== 'form' && document.kind !== 'chat') return [];
  const found: { pointer: string; url: string }[] = [];
  const walk = (part: unknown, pointer: string): void => {
    if (typeof part !== 'object' || part === null) return;
    for (const [name, value] of Object.entries(part)) {
      const at = `${pointer}/${name}`;
      if (typeof value !== 'string') walk(value, at);
      else if (LEADS.has(name) && WEB.test(value)) {
        const [url = ''] = answersIn(value).length > 0 ? value.split('?') : [value];
        if (answersIn(url).length === 0 && URL.canParse(url)) found.push({ pointer: at, url });
      }
    }
  };
  walk(document, '');
  return found;
}
