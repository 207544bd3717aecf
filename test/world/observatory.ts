import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { Operator } from './operator.ts';
import { TERN_KEY, type World } from './world.ts';

/** The observatory's form wired to Tern Post, as the demo has it; without the time check, since tests type fast. */
export async function observatory(world: World, operator: Operator, mode: 'single' | 'double' = 'double') {
  const connection = await operator.connect(world.ternPost, TERN_KEY);
  const source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  const document = skyLetterRoute(source.id, connection.id);
  const route = await operator.route('Sky letter to Tern Post', {
    ...document,
    consent: { ...document.consent, confirmedBy: { by: mode === 'double' ? 'iwashi' : 'nobody' } },
  });
  return { connection, source, route };
}

export const fields = (email: string, more: Record<string, string> = {}): Record<string, string> => ({
  name: 'Mara Quill',
  email,
  interests: 'Taking pictures',
  telescope: 'yes',
  consent: 'yes',
  page: 'sky-letter',
  ...more,
});

/** Sends JSON to a source, as another system would. @returns the submission's id */
export async function submitJson(
  source: SourceView,
  values: Record<string, unknown>,
  headers: Record<string, string> = {},
): Promise<string> {
  const response = await sendJson(source, values, headers);
  if (response.status !== 202) throw new Error(`${response.status} ${await response.text()}`);
  return ((await response.json()) as { submission: string }).submission;
}

export const sendJson = (
  source: SourceView,
  values: Record<string, unknown>,
  headers: Record<string, string> = {},
): Promise<Response> =>
  fetch(source.postUrl, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: new URL(source.postUrl).origin, ...headers },
    body: JSON.stringify(values),
  });

/** Posts a form, as a browser would from the observatory's page. */
export const submitForm = (world: World, source: SourceView, values: Record<string, string>): Promise<Response> =>
  fetch(source.postUrl, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin: world.site, accept: 'text/html', referer: `${world.site}/sky-letter` },
    body: new URLSearchParams(values),
  });
