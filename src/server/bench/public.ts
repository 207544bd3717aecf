import { randomUUID } from 'node:crypto';
import { faceOf, KEY_FIELD, PAGE_FIELD, REFERRER_FIELD, saying, VARIANT_FIELD } from '../../core/forms/index.ts';
import { skyLetterForm } from '../demo/documents.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';
import { besideBare } from './besideBare.ts';
import type { Comparison } from './compare.ts';
import { benchSetting, visitorEntries } from './setting.ts';

const COUNT = 1_500;
const SITE = 'https://site.example';

/**
 * Forms sent by the script on a page, through everything that stands there: the site is checked, and the words; the way through its
 * pages is walked, its variant and ending are found, and what is put in its place is printed. No worker runs meanwhile.
 */
export async function benchPublic(): Promise<Comparison> {
  const { context } = await benchSetting();
  const { store, now, newId } = context;
  const id = newId();
  const form = skyLetterForm('');
  const draft = {
    ...form,
    origins: [SITE],
    guards: { words: ['casino', 'lottery'], mostLinks: 3, throwAway: true },
    ending: saying('Thank you.', { link: { label: 'Go on', url: `${SITE}/?name={name}` } }),
    variants: [
      { id: 'a', name: 'A', share: 50, face: null, nothing: false },
      { id: 'b', name: 'B', share: 50, face: faceOf({ ...form, title: 'B' }), nothing: false },
    ],
  };
  await addSource(store.db, { id, publicId: 'bench-public', name: 'Public', draft, now: now() });
  const unpublished = await findSource(store.db, id);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const comparison = await besideBare(context, COUNT, {
    path: '/in/bench-public?as=part',
    status: 202,
    body: () =>
      new URLSearchParams([
        ...visitorEntries(),
        [KEY_FIELD, randomUUID()],
        [PAGE_FIELD, `${SITE}/letter?utm_campaign=autumn`],
        [REFERRER_FIELD, 'https://friends.example/'],
        [VARIANT_FIELD, 'b'],
      ]).toString(),
    headers: {
      'content-type': 'application/x-www-form-urlencoded',
      accept: 'application/json',
      origin: SITE,
      'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/140.0 Safari/537.36',
    },
  });
  await store.pool.query("DELETE FROM submissions WHERE state = 'received'");
  return comparison;
}
