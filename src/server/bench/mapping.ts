import { applyMapping } from '../../core/mapping/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import { compare, perSecond, type Comparison } from './compare.ts';
import { benchSetting } from './setting.ts';
import { findRoute, listRoutes } from '../store/routes.ts';
import { findConnection } from '../store/connections.ts';

const COUNT = 100_000;
const ROUNDS = 7;

/** What somebody would write who needs just this one mapping, with the same checks. */
function byHand(values: FieldValues): Record<string, string | number> | null {
  const { email, name, page, telescope } = values;
  if (typeof email !== 'string' || typeof name !== 'string' || typeof page !== 'string') return null;
  const words = name.trim().replace(/\s+/gu, ' ').split(' ');
  const address = email.trim().toLowerCase();
  if (!/^[^\s@]{1,64}@[^\s@]+\.[^\s@]{2,}$/.test(address) || address.length > 254) return null;
  const family = words.slice(1).join(' ');
  if ((words[0] ?? '').length > 60 || family.length > 60 || page.length > 200) return null;
  return {
    email: address,
    given: words[0] ?? '',
    family,
    signup_page: page.trim().replace(/\s+/gu, ' '),
    has_telescope: telescope === true ? 1 : 0,
  };
}

/** The demo's mapping applied to a submission, against a function written for it by hand. */
export async function benchMapping(): Promise<Comparison> {
  const { context } = await benchSetting();
  const [route] = await listRoutes(context.store.db);
  const target = (route && (await findRoute(context.store.db, route.id)))?.live?.targets[0];
  const connection = target && (await findConnection(context.store.db, target.connectionId));
  if (!target || !connection?.catalogue) throw new Error('the bench route is missing');
  const { fields } = connection.catalogue;
  const values = (index: number): FieldValues => ({
    name: ` Mara  Quill${index} `,
    email: `Bench${index}@Hill.example`,
    interests: [],
    telescope: index % 2 === 0,
    consent: true,
    page: 'sky-letter',
  });
  // The sums keep the work from being optimised away.
  let sink = 0;
  const comparison = await compare('a second', ROUNDS, {
    iwashi: () =>
      perSecond(COUNT, 1, (index) =>
        Promise.resolve(void (sink += applyMapping(fields, target.lines, { values: values(index), now: 0 }).length)),
      ),
    reference: () => perSecond(COUNT, 1, (index) => Promise.resolve(void (sink += byHand(values(index)) ? 1 : 0))),
  });
  if (sink === 0) throw new Error('nothing was mapped');
  return comparison;
}
