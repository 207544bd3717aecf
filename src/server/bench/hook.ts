import { createHmac, randomUUID } from 'node:crypto';
import { plainField } from '../../core/values/index.ts';
import { PLAIN_WEBHOOK, SOURCE_FORMAT, type PostsDocument } from '../../core/intake/index.ts';
import { addSource, findSource, publishSource } from '../store/sources.ts';
import { setSourceSecret } from '../store/webhooks.ts';
import { besideBare } from './besideBare.ts';
import type { Comparison } from './compare.ts';
import { benchSetting } from './setting.ts';

const COUNT = 1_500;
const SECRET = 'the secret of the bench';

/** Signed messages that arrive at an inbound webhook, each known by its id. No worker runs meanwhile. */
export async function benchHook(): Promise<Comparison> {
  const { context } = await benchSetting();
  const { store, now, newId, secrets } = context;
  const id = newId();
  const draft: PostsDocument = {
    format: SOURCE_FORMAT,
    kind: 'posts',
    fields: [
      { ...plainField('email', 'email'), required: true, keepAs: 'email', path: '$.customer.email' },
      { ...plainField('name', 'text'), path: '$.customer.name' },
      { ...plainField('total', 'money'), path: '$.total' },
      { ...plainField('items', 'list of records'), path: '$.items' },
    ],
    statement: '',
    trust: 'usual',
    each: '',
    ...PLAIN_WEBHOOK,
    idPath: '$.id',
    events: { path: '$.type', known: [{ kind: 'order.paid', act: 'take' }], others: 'ignore' },
    proof: { ...PLAIN_WEBHOOK.proof, by: 'signature', header: 'X-Signature' },
  };
  await addSource(store.db, { id, publicId: 'bench-hook', name: 'Hook', draft, now: now() });
  await setSourceSecret(store.db, id, { secret: secrets.seal(SECRET), setAt: now() });
  const unpublished = await findSource(store.db, id);
  if (unpublished) await publishSource(store.db, unpublished, now());
  const comparison = await besideBare(context, COUNT, {
    path: '/in/bench-hook',
    status: 202,
    body: () =>
      JSON.stringify({
        id: randomUUID(),
        type: 'order.paid',
        customer: { email: `${randomUUID()}@hill.example`, name: 'Mara Quill' },
        total: { amount: '31.50', currency: 'EUR' },
        items: [
          { sku: 'chart', count: 2 },
          { sku: 'torch', count: 1 },
        ],
      }),
    headers: (body) => ({
      'content-type': 'application/json',
      'x-signature': createHmac('sha256', SECRET).update(body).digest('hex'),
    }),
  });
  await store.pool.query("DELETE FROM submissions WHERE state = 'received'");
  return comparison;
}
