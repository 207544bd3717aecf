import type { SourceView } from '../../src/contract/source.ts';
import type { SecretView } from '../../src/contract/webhook.ts';
import { SOURCE_FORMAT, type FileDocument } from '../../src/core/intake/index.ts';
import { plainField } from '../../src/core/values/index.ts';
import { frontDeskChat, frontDeskRoute } from '../../src/server/demo/chat.ts';
import { MEMBER_FIELD, membersRoute, membersSource, shopRoute } from '../../src/server/demo/documents.ts';
import type { Operator } from './operator.ts';
import { CAPSTAN, FOX_TOKEN, TERN_KEY, type StandIn, type World } from './world.ts';

/** A source of each kind by which somebody may come, and the systems that their routes lead to. */
export interface Everywhere {
  fox: StandIn;
  capstan: StandIn;
  /** Ids of connections. */
  ternPost: string;
  chat: SourceView;
  sheet: SourceView;
}

const single = <Route extends { consent: object }>(route: Route): Route => ({
  ...route,
  consent: { ...route.consent, confirmedBy: { by: 'nobody' } },
});

/** Makes a chat, the site's members, a shop and lists of people as sources, each with a route to the letter; the shop's to the office too. */
export async function connectEverywhere(world: World, operator: Operator): Promise<Everywhere> {
  const [fox, { capstan }] = await Promise.all([
    world.standIn('fennel-fox', { FENNEL_FOX_TOKEN: FOX_TOKEN }),
    world.others(),
  ]);
  await world.changeTernPost(({ fields, tags }) => ({
    fields: [
      ...fields,
      { key: MEMBER_FIELD, label: 'Member', kind: 'figure', required: false, options: [], longest: null },
    ],
    tags: [...tags, { id: 'T-patron', name: 'patron' }, { id: 'T-friend', name: 'friend' }],
  }));
  const ternPost = await operator.connect(world.ternPost, TERN_KEY);
  await operator.post(`/connections/${ternPost.id}/notices`);
  const office = await operator.connectTo('capstan', capstan.url, CAPSTAN);
  const shop = await operator.connectTo('fennel-fox', fox.url, { key: FOX_TOKEN }, 'Observatory shop');
  let made = 0;
  const chat = await operator.source(
    'Front desk',
    frontDeskChat(world.site, () => `id${(made += 1)}`),
  );
  await operator.route('Front desk to the letter', single(frontDeskRoute(chat.id, ternPost.id)));
  const site = await operator.source('Members of the site', membersSource());
  const { secret } = await operator.put<SecretView>(`/sources/${site.id}/secret`, { secret: '' });
  await fetch(`${world.site}/members-told.json`, {
    method: 'PUT',
    body: JSON.stringify({ url: site.postUrl, secret }),
  });
  await operator.route('Members', single(membersRoute(site.id, ternPost.id)));
  const till = await operator.post<SourceView>('/sources', { name: 'Shop', kind: 'shop', connectionId: shop.id });
  await operator.post(`/sources/${till.id}/publish`);
  await operator.route('Shop', single(shopRoute(till.id, { ternPost: ternPost.id, capstan: office.id })));
  const sheet = await operator.source('Friends of old', {
    format: SOURCE_FORMAT,
    kind: 'file',
    fields: [
      { ...plainField('email', 'email'), label: 'Email', path: "$['Email']", keepAs: 'email', required: true },
      { ...plainField('first_name', 'text'), label: 'First name', path: "$['First name']", keepAs: 'first_name' },
    ],
    statement: '',
    trust: 'usual',
  } satisfies FileDocument);
  const old = shopRoute(sheet.id, { ternPost: ternPost.id });
  await operator.route('Friends to the letter', {
    ...single(old),
    targets: old.targets.map((target) => ({
      ...target,
      tags: [],
      lines: target.lines.filter(({ to }) => to === 'email' || to === 'given'),
    })),
    consent: {
      ...single(old).consent,
      asks: old.consent.asks.slice(0, 1).map((ask) => ({ ...ask, tickField: '' })),
    },
  });
  return { fox, capstan, ternPost: ternPost.id, chat, sheet };
}
