import { readConfig } from '../config.ts';
import { profileOf } from '../connectors/registry.ts';
import { saveConnection, verifyEntered } from '../connecting/adding.ts';
import { createContext, type Context } from '../context.ts';
import { saying } from '../../core/forms/index.ts';
import { takeSubmission } from '../intake/take.ts';
import { skyLetterForm, skyLetterRoute } from '../demo/documents.ts';
import { saveOwnProfile } from '../store/profiles.ts';
import { migrateStore } from '../store/migrating.ts';
import { addRoute, findRoute, publishRoute } from '../store/routes.ts';
import { addSource, findSource, publishSource, type SourceRecord } from '../store/sources.ts';

export interface Setting {
  context: Context;
  source: SourceRecord;
  connectionId: string;
  ternPost: { url: string; key: string };
}

let made: Promise<Setting> | null = null;

/** The observatory's form wired to Tern Post by single opt-in; made once a run. */
export const benchSetting = (): Promise<Setting> => (made ??= makeSetting());

async function makeSetting(): Promise<Setting> {
  const context = createContext(readConfig(process.env));
  const { store, now, newId } = context;
  await migrateStore(store, context.config.root);
  const ternPost = { url: process.env.BENCH_TERN_POST ?? '', key: process.env.BENCH_TERN_POST_KEY ?? '' };

  const entered = {
    profile: profileOf('tern-post'),
    name: 'Bench',
    baseUrl: ternPost.url,
    credentials: { key: ternPost.key },
  };
  const { batch: _, ...oneByOne } = profileOf('tern-post');
  await saveOwnProfile(store.db, { ...oneByOne, id: 'bench-one-by-one' }, now());
  const verified = await verifyEntered(context, entered);
  if (!verified.result.ok) throw new Error(verified.result.problem);
  const connectionId = await saveConnection(context, store.db, entered, verified);

  const sourceId = newId();
  const draft = { ...skyLetterForm(''), origins: [], ending: saying('') };
  await addSource(store.db, { id: sourceId, publicId: 'bench', name: 'Bench', draft, now: now() });
  const unpublished = await findSource(store.db, sourceId);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const source = await findSource(store.db, sourceId);

  const routeId = newId();
  const document = skyLetterRoute(sourceId, connectionId);
  await addRoute(store.db, {
    id: routeId,
    name: 'Bench',
    draft: { ...document, consent: { ...document.consent, confirmedBy: { by: 'nobody' } } },
    now: now(),
  });
  const route = await findRoute(store.db, routeId);
  if (route) await publishRoute(store.db, route, now());
  if (!source) throw new Error('the bench source is missing');
  return { context, source, connectionId, ternPost };
}

/** Accepts so many submissions, which the workers are to deliver. */
export async function acceptMany({ context, source }: Setting, count: number): Promise<void> {
  if (!source.live) throw new Error('the bench source is not live');
  for (let index = 0; index < count; index += 1) {
    await takeSubmission(context, {
      sourceId: source.id,
      sourceVersion: 1,
      document: source.live,
      contentType: '',
      payload: { kind: 'entries', entries: visitorEntries(), files: [] },
      headers: {},
      idempotencyKey: null,
      known: {},
      shownAt: null,
    });
  }
}

let people = 0;

/** What an invented visitor sends; never the same twice. */
export function visitorEntries(): [string, string][] {
  people += 1;
  return [
    ['name', `Mara Quill${people}`],
    ['email', `bench${people}@hill.example`],
    ['interests', 'Taking pictures'],
    ['telescope', 'yes'],
    ['consent', 'yes'],
    ['page', 'sky-letter'],
    ['seconds_on_page', '9'],
  ];
}
