import type { FoundForm } from '../../../core/formats/index.ts';
import { exampleValues } from '../../../core/intake/index.ts';
import { inWords } from '../../../core/values/index.ts';

/**
 * The request by which a browser sends a form, as a cURL line with made-up answers: what a profile of a service is read from.
 * @param page where the form is; '' where it was pasted
 * @returns null where nobody knows where it is sent
 */
export function requestTo({ action, fields }: Pick<FoundForm, 'action' | 'fields'>, page: string): string | null {
  const base = URL.canParse(page) ? page : undefined;
  if (!URL.canParse(action, base)) return null;
  const to = new URL(action, base);
  const sent = fields.filter(({ type }) => type !== 'file');
  if (!to.protocol.startsWith('http') || sent.length === 0) return null;
  const values = exampleValues(sent);
  const body = new URLSearchParams(
    sent.map(({ id, key, preset }) => [key, preset || inWords(values[id]) || 'something']),
  );
  return `curl -X POST '${to.href.replaceAll("'", '%27')}' -H 'Content-Type: application/x-www-form-urlencoded' -d '${body.toString().replaceAll("'", '%27')}'`;
}
