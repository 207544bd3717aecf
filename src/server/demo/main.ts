import 'reflect-metadata';
import { Readable } from 'node:stream';
import { readConfig } from '../config.ts';
import { createContext, type Context } from '../context.ts';
import { printFormToCopy } from '../../forms/index.ts';
import type { RouteDocument } from '../../core/plan/index.ts';
import type { Download } from '../../core/forms/index.ts';
import type { FormDocument, MadeDocument } from '../../core/intake/index.ts';
import { scriptLine } from '../../core/showing/index.ts';
import { IWASHI, type Actor } from '../commands/command.ts';
import { nameOrganisation } from '../commands/organisation/nameOrganisation.ts';
import { addPurpose } from '../commands/purposes/addPurpose.ts';
import { publishRoute } from '../commands/routes/publishRoute.ts';
import { addOwnFile } from '../commands/ownFiles/addOwnFile.ts';
import { addImport } from '../commands/imports/addImport.ts';
import { addSource } from '../commands/sources/addSource.ts';
import { connectShop } from '../commands/sources/connectShop.ts';
import { setSecret } from '../commands/sources/setSecret.ts';
import { publishSource } from '../commands/sources/publishSource.ts';
import { hashPassword } from '../security/passwords.ts';
import { noteEvents } from '../store/counting.ts';
import { countRollup } from '../work/counting.ts';
import { addAccount, findAccount, readFact, writeFact } from '../store/accounts.ts';
import { changeConnection, findConnection, listConnections } from '../store/connections.ts';
import { inboundEventAddressOf } from '../store/inboundEvents.ts';
import { startInboundEvents, stopInboundEvents } from '../connecting/inboundEvents.ts';
import { migrateStore } from '../store/migrating.ts';
import { listPurposes } from '../store/purposes.ts';
import { addRoute } from '../store/routes.ts';
import { findSource, listSources, saveSourceDraft, type SourceRecord } from '../store/sources.ts';
import { createMailer } from '../work/mailing.ts';
import { connectAll, demoOperator, mustDo, type StandIns } from './connections.ts';
import {
  NAMES,
  PURPOSES,
  WHAT_TO_BRING,
  bellTarget,
  enquiryTarget,
  eveningPopUp,
  ordersRoute,
  ordersSource,
  schoolForm,
  schoolRoute,
  MEMBER_FIELD,
  membersRoute,
  membersSource,
  shopRoute,
  shortRoute,
  signUpsTarget,
  skyLetterForm,
  skyLetterRoute,
  storyForm,
  withPurposes,
} from './documents.ts';
import { friendsList, friendsSource } from './friends.ts';
import { frontDeskChat, frontDeskRoute } from './chat.ts';
import { inventMembers } from './members.ts';
import { inventTalks } from './talks.ts';
import { inventTrade, shopHappenings } from './shop.ts';
import { SetClock } from './happenings.ts';
import { inventHistory, inventShowings, liveThrough } from './history.ts';
import { clearNightBar, inventVisits, nextForReaders, visitPlanner } from './visits.ts';
import { inventPeople, seededRandom, type Invented } from './people.ts';

const SEED = 1877;
const PEOPLE = 240;
const OLDEST_MS = 40 * 24 * 3_600_000;

interface Surroundings {
  siteUrl: string;
  standins: StandIns;
}

/** Makes the demo's data on first start; on every start sees to it that addresses are those of today. */
async function main(): Promise<void> {
  const { IWASHI_DEMO_SITE: siteUrl = '', IWASHI_DEMO_STANDINS: standins = '{}' } = process.env;
  const around: Surroundings = { siteUrl, standins: JSON.parse(standins) as StandIns };
  const clock = new SetClock();
  const context = createContext(readConfig(process.env), clock.now);
  await migrateStore(context.store, context.config.root);
  const { db } = context.store;
  if ((await readFact(db, 'demo')) === null) {
    await makeDemo(context, clock, around);
    await writeFact(db, 'demo', new Date().toISOString());
  }
  await settleAddresses(context, around);
  await context.close();
}

async function makeDemo(context: Context, clock: SetClock, around: Surroundings): Promise<void> {
  const { store, config, newId } = context;
  const now = Date.now();
  const random = seededRandom(SEED);
  if (config.demoSignIn && !(await findAccount(store.db, config.demoSignIn.email))) {
    await addAccount(store.db, {
      id: newId(),
      email: config.demoSignIn.email,
      name: 'Demo operator',
      passwordHash: await hashPassword(config.demoSignIn.password),
      createdAt: now,
    });
  }
  clock.set(now - OLDEST_MS);
  mustDo(await nameOrganisation(await demoOperator(context), context, { names: NAMES }));
  for (const purpose of Object.values(PURPOSES))
    mustDo(await addPurpose(await demoOperator(context), context, purpose));
  await prepareTernPost(around.standins['tern-post'].url);
  const { ternPost, capstan, rowbarn, bellbuoy, shop } = await connectAll(context, around.standins);
  const sky = await addMade(context, 'Sky letter sign-up', skyLetterForm(around.siteUrl));
  const school = await addMade(context, 'School visit request', {
    ...schoolForm(),
    ending: { ...schoolForm().ending, download: await whatToBring(context) },
  });
  await addWire(context, 'Sky letter readers', skyLetterRoute(sky.id, ternPost, [signUpsTarget(rowbarn)]));
  await addWire(
    context,
    'School visits',
    schoolRoute(school.id, ternPost, [enquiryTarget(capstan), bellTarget(bellbuoy)]),
  );

  const letter = (await listPurposes(store.db)).find(({ name }) => name === PURPOSES.letter.name)?.id ?? '';
  const story = await addMade(context, 'Under every story', {
    ...storyForm(around.siteUrl),
    instead: nextForReaders(around.siteUrl, letter),
  });
  const evening = await addMade(context, 'Evenings pop-up', eveningPopUp(around.siteUrl));
  const visit = await addMade(context, 'Visit planner', visitPlanner(around.siteUrl, letter));
  const bar = await addMade(context, 'Clear night bar', clearNightBar(around.siteUrl, letter));
  const short = [story.id, evening.id, visit.id, bar.id];
  await addWire(context, 'Sky letter by address', shortRoute(short, ternPost));

  const orders = await addMade(context, 'Box office orders', ordersSource());
  await addWire(context, 'Calls about evenings', ordersRoute(orders.id, { capstan, bellbuoy }));

  const people = inventPeople(PEOPLE, random);
  const trade = inventTrade(people.slice(140, 200), inventPeople(45, seededRandom(SEED + 2)), now, random);
  await change(around.standins['fennel-fox'].url, trade.state);
  const actor = await demoOperator(context);
  const made = await connectShop(actor, context, { name: 'Observatory shop', connectionId: shop });
  const fox = await publishAndRead(actor, context, mustDo(made));
  await addWire(context, 'Shop customers', shopRoute(fox.id, { ternPost, capstan }));

  const desk = await addMade(context, 'Front desk chat', frontDeskChat(around.siteUrl, newId));
  await addWire(context, 'Front desk to the letter', frontDeskRoute(desk.id, ternPost));
  const members = await addMade(context, 'Members of the site', membersSource());
  await addWire(context, 'Members', membersRoute(members.id, ternPost));

  // Somebody has brought a list, and nobody decided on it yet.
  const friends = await addMade(context, 'Friends of old', friendsSource());
  const content = Readable.from([
    Buffer.from(friendsList([...people.slice(100, 140), ...inventPeople(60, seededRandom(SEED + 1))])),
  ]);
  const list = { sourceId: friends.id, name: 'friends-of-the-observatory.csv', content };
  mustDo(await addImport(await demoOperator(context), context, list));
  await fillTernPost(around.standins['tern-post'].url, people, now);
  const mailer = createMailer(context);
  const happenings = [
    ...inventHistory(people, { sky, school, orders, story, evening }, around.siteUrl, now, random),
    ...inventVisits(people, visit, around.siteUrl, now, random),
    ...shopHappenings(trade, fox, random),
    ...inventMembers(people.slice(200, 226), members, now, random),
    ...inventTalks(people.slice(60, 84), desk, around.siteUrl, now, random),
  ].sort((a, b) => a.at - b.at);
  await liveThrough(context, clock, mailer, happenings, { colleague: await demoOperator(context), now });
  await noteEvents(store.db, inventShowings(happenings, { sky, story, evening, visit }, newId, random));
  while ((await countRollup(context)) > 0);
  mailer.close();
  await backdateMembers(
    around.standins['tern-post'].url,
    new Map(happenings.map(({ person, at }) => [person.email, at])),
  );
  clock.set(Date.now());
  const listening = await findConnection(store.db, ternPost);
  if (listening) await startInboundEvents(context, listening);
}

/** What a class that comes to visit is handed out. */
async function whatToBring(context: Context): Promise<Download> {
  const content = Readable.from([Buffer.from(WHAT_TO_BRING)]);
  const name = 'what-to-bring.txt';
  const file = mustDo(await addOwnFile(await demoOperator(context), context, { name, content }));
  return { label: 'What to bring', file, url: '', days: 30 };
}

async function addMade(context: Context, name: string, draft: MadeDocument): Promise<SourceRecord> {
  const publicId = name.toLowerCase().replaceAll(' ', '-');
  const actor = await demoOperator(context);
  return publishAndRead(actor, context, mustDo(await addSource(actor, context, { name, publicId, draft })));
}

async function publishAndRead(actor: Actor, context: Context, id: string): Promise<SourceRecord> {
  mustDo(await publishSource(actor, context, id));
  const live = await findSource(context.store.db, id);
  if (!live) throw new Error('the demo source is missing');
  return live;
}

async function addWire(context: Context, name: string, route: RouteDocument): Promise<void> {
  const { store, newId, now } = context;
  const id = newId();
  const purposes = await listPurposes(store.db);
  const draft = withPurposes(route, (called) => purposes.find((purpose) => purpose.name === called)?.id ?? '');
  await addRoute(store.db, { id, name, draft, now: now() });
  mustDo(await publishRoute(await demoOperator(context), context, { id }));
}

/** What the list holds of members: somebody made room for it there. */
async function prepareTernPost(url: string): Promise<void> {
  const { fields, tags } = (await (await fetch(`${url}/inside.json`)).json()) as { fields: object[]; tags: object[] };
  const member = { key: MEMBER_FIELD, label: 'Member', kind: 'figure', required: false, options: [], longest: null };
  await change(url, {
    fields: [...fields, member],
    tags: [...tags, ...['patron', 'friend'].map((name) => ({ id: `T-${name}`, name }))],
  });
}

/** Some people are in Tern Post already, and some of them left it: they will not be taken back without a new confirmation. */
async function fillTernPost(url: string, people: Invented[], now: number): Promise<void> {
  const joinedAt = new Date(now - 400 * 24 * 3_600_000).toISOString();
  const leftAt = new Date(now - 90 * 24 * 3_600_000).toISOString();
  const members = people
    .filter((_, index) => index % 20 === 4)
    .map(({ given, family, email }, index) => {
      const left = index % 2 === 0;
      return {
        id: `M-old-${index}`,
        email,
        state: left ? 'left' : 'active',
        lists: ['L-200'],
        groups: [],
        tags: [],
        fields: { given, family },
        joinedAt,
        leftAt: left ? leftAt : null,
        changes: 1,
      };
    });
  await change(url, { members });
}

/** The stand-in dates members by its own clock; here they get the day on which they signed up. */
async function backdateMembers(url: string, joined: Map<string, number>): Promise<void> {
  const { members } = (await (await fetch(`${url}/inside.json`)).json()) as {
    members: { email: string; joinedAt: string; id: string }[];
  };
  const dated = members.map((member) => {
    const at = joined.get(member.email);
    return at && !member.id.startsWith('M-old') ? { ...member, joinedAt: new Date(at).toISOString() } : member;
  });
  await change(url, { members: dated });
}

async function change(url: string, state: object): Promise<void> {
  await fetch(`${url}/inside.json`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(state),
  });
}

/** Another start may have other ports: the connections, the thank-you page and the placed form follow them. */
async function settleAddresses(context: Context, { standins, siteUrl }: Surroundings): Promise<void> {
  const { store, config, now } = context;
  for (const { id, profile, baseUrl } of await listConnections(store.db)) {
    const standin = standins[profile as keyof StandIns] as StandIns[keyof StandIns] | undefined;
    // Verified anew at once: they were away meanwhile.
    if (standin && /127\.0\.0\.1/.test(baseUrl))
      await changeConnection(store.db, id, { baseUrl: standin.url, checkAt: 0 });
  }
  for (const connection of await listConnections(store.db)) {
    if (!(await inboundEventAddressOf(store.db, connection.id))) continue;
    await stopInboundEvents(context, connection);
    await startInboundEvents(context, connection);
  }
  for (const source of await listSources(store.db)) {
    if (source.live?.kind === 'chat' && source.publicId === 'front-desk-chat' && source.live.origins[0] !== siteUrl) {
      await saveSourceDraft(store.db, source.id, { ...source.live, origins: [siteUrl] }, null, now());
      await publishAndRead(IWASHI, context, source.id);
    }
    if (source.live?.kind !== 'form' || !OF_THE_SITE.has(source.publicId)) continue;
    let { live, liveVersion } = { ...source, live: source.live };
    const [before] = live.origins;
    if (before !== undefined && before !== siteUrl) {
      live = JSON.parse(JSON.stringify(live).replaceAll(before, siteUrl)) as FormDocument;
      await saveSourceDraft(store.db, source.id, live, null, now());
      ({ liveVersion } = await publishAndRead(IWASHI, context, source.id));
    }
    if (source.publicId !== 'sky-letter-sign-up') continue;
    const form = printFormToCopy(`${config.publicUrl}/in/${source.publicId}`, live, liveVersion ?? undefined);
    await fetch(`${siteUrl}/form.html`, { method: 'PUT', body: form });
  }
  const orders = (await listSources(store.db)).find(({ publicId }) => publicId === 'box-office-orders');
  if (orders) {
    const { address: url, secret } = mustDo(await setSecret(IWASHI, context, { id: orders.id, secret: '' }));
    await fetch(`${siteUrl}/told.json`, { method: 'PUT', body: JSON.stringify({ url, secret }) });
  }
  const members = (await listSources(store.db)).find(({ publicId }) => publicId === 'members-of-the-site');
  if (members) {
    const { address: url, secret } = mustDo(await setSecret(IWASHI, context, { id: members.id, secret: '' }));
    await fetch(`${siteUrl}/members-told.json`, { method: 'PUT', body: JSON.stringify({ url, secret }) });
  }
  const script = scriptLine(config.publicUrl);
  await fetch(`${siteUrl}/head.html`, { method: 'PUT', body: script });
}

/** The forms that stand on the observatory's site. */
const OF_THE_SITE = new Set([
  'sky-letter-sign-up',
  'under-every-story',
  'evenings-pop-up',
  'visit-planner',
  'clear-night-bar',
]);

main().then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(error);
    process.exit(1);
  },
);
