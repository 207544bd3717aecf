import { isoDay } from '../../core/isoTime.ts';
import type { Transporter } from 'nodemailer';
import {
  ELAPSED_FIELD,
  PAGE_FIELD,
  REFERRER_FIELD,
  TOOK_FIELD,
  TRAP_FIELD,
  VERSION_FIELD,
} from '../../core/forms/index.ts';
import { readVisit, type Entries, type Payload } from '../../core/intake/index.ts';
import type { Context } from '../context.ts';
import { deviceOf } from '../intake/device.ts';
import { takeSubmission } from '../intake/take.ts';
import { noteProgress, visitColumns, type FormEvent } from '../store/counting.ts';
import { DAY_MS, HOUR_MS } from '../store/figures.ts';
import { claim, claimDeliveries, dueConnections, MAIL_QUEUE, SUBMISSION_QUEUE, type Queue } from '../store/queue.ts';
import type { SourceRecord } from '../store/sources.ts';
import type { Actor } from '../commands/command.ts';
import { confirm } from '../commands/confirmations/confirm.ts';
import { noteReply } from '../commands/submissions/noteReply.ts';
import { deliver, loadJobs } from '../work/delivering.ts';
import { OutcomeWriter } from '../work/outcomeWriter.ts';
import { PlanningContexts } from '../planning/planningContexts.ts';
import { sendMail } from '../work/mailing.ts';
import { planAndStore } from '../work/planning.ts';
import { expireConfirmations } from '../work/scheduled.ts';
import { INTERESTS } from './documents.ts';
import { type Invented, pick } from './people.ts';
import { talkThrough } from './talks.ts';
import type { Happening, SetClock } from './happenings.ts';

const DAYS = 35;

/** What people did in the weeks before: sign-ups, repeats with capitals, robots, schools; more in the evenings and before weekends. */
export function inventHistory(
  people: Invented[],
  sources: {
    sky: SourceRecord;
    school: SourceRecord;
    orders: SourceRecord;
    story: SourceRecord;
    evening: SourceRecord;
  },
  siteUrl: string,
  now: number,
  random: () => number,
): Happening[] {
  const happenings: Happening[] = [];
  people.forEach((person, index) => {
    const at = Math.round(now - 10 * 60_000 - random() ** 1.3 * DAYS * DAY_MS);
    const isSchool = index % 9 === 4;
    const place = isSchool ? null : placeOf(index);
    const source = isSchool ? sources.school : place === null ? sources.sky : sources[place.source];
    const typed = random() < 0.12 ? person.email.replace(/^\w/, (letter) => letter.toUpperCase()) : person.email;
    const entries: Entries = isSchool
      ? [
          ['first', person.given],
          ['last', person.family],
          ['email', typed],
          ['school', `${person.family} ${pick(['Primary School', 'School', 'College'], random)}`],
          ['pupils', String(8 + Math.floor(random() * 50))],
          ['visits', pick(['first time', 'now and then', 'every month'], random)],
        ]
      : [
          ['name', `${person.given} ${person.family}`],
          ['email', typed],
          ...(place === null ? [] : [['consent', 'yes'] as [string, string]]),
          ...INTERESTS.filter(() => random() < 0.4).map((interest): [string, string] => ['interests', interest]),
          ...(random() < 0.35 ? [['telescope', 'yes'] as [string, string]] : []),
          ['consent', 'yes'],
          ['page', random() < 0.8 ? 'sky-letter' : 'evenings'],
        ];
    const campaign = index % 4 === 1 ? '?utm_campaign=comet-night&utm_source=poster' : '';
    const page = isSchool ? '' : `${siteUrl}${place?.path ?? '/sky-letter'}${campaign}`;
    const referrer = REFERRERS[index % REFERRERS.length] ?? '';
    const confirmsAfter = random() < 0.82 ? Math.round((1 + random() ** 3 * 300) * 60_000) : null;
    happenings.push({
      at,
      source,
      page,
      person,
      payload: entriesPayload([
        ...(place === null ? entries : entries.filter(([name]) => SHORT.has(name))),
        [ELAPSED_FIELD, String(Math.round(6 + random() * 60))],
        ...(page === '' ? [] : [[TOOK_FIELD, String(Math.round(8 + random() ** 2 * 70))] as [string, string]]),
        [REFERRER_FIELD, referrer],
      ]),
      confirmsAfter,
      ...(isSchool && random() < 0.85 ? { answeredAfter: Math.round((0.5 + random() ** 2 * 30) * HOUR_MS) } : {}),
      ...(isSchool && random() < 0.6 ? { fetches: true } : {}),
    });
    if (!isSchool && random() < 0.06) {
      // Signs up again some days later, with capitals.
      const again = entries.map(([name, value]): [string, string] => [
        name,
        name === 'email' ? value.toUpperCase() : value,
      ]);
      const later = Math.round(at + (1 + random() * 6) * DAY_MS);
      if (later < now - HOUR_MS)
        happenings.push({
          at: later,
          source,
          page,
          person,
          payload: entriesPayload(again),
          confirmsAfter: confirmsAfter === null ? 5 * 60_000 : null,
        });
    }
    if (random() < 0.04)
      happenings.push({
        at: at + 60_000,
        source: sources.sky,
        page,
        person,
        payload: entriesPayload([
          ['name', 'Best Offers'],
          ['email', `offers${index}@cheap-lenses.test`],
          ['consent', 'yes'],
          [TRAP_FIELD, 'https://cheap-lenses.test'],
        ]),
        confirmsAfter: null,
      });
  });
  people
    .filter((_, index) => index % 17 === 3)
    .forEach((person, index) => happenings.push(inventOrder(person, index, sources.orders, now, random)));
  return happenings.sort((a, b) => a.at - b.at);
}

/** Where else than on its own page the Sky letter is signed up for, by some. */
function placeOf(index: number): { source: 'story' | 'evening'; path: string } | null {
  if (index % 5 === 2) return { source: 'story', path: STORY_PATHS[index % STORY_PATHS.length] ?? '/stories' };
  return index % 7 === 3 ? { source: 'evening', path: '/evenings' } : null;
}

const STORY_PATHS = [
  '/stories/the-night-of-the-long-shadow',
  '/stories/a-comet-for-breakfast',
  '/stories/how-we-polished-the-mirror',
];

/** What the short forms ask for. */
const SHORT = new Set(['name', 'email', 'consent']);

/** Pages that people come from; all invented. */
const REFERRERS = [
  '',
  'https://search.example/',
  'https://hill-walkers.example/links',
  '',
  'https://mail.example/inbox',
];

type Placed = 'sky' | 'story' | 'evening' | 'visit';

/** How many more saw a form than sent it, at least and at most: what comes over a page is seen by many who want nothing. */
const SEEN_BY: [source: Placed, least: number, most: number][] = [
  ['sky', 2, 6],
  ['story', 6, 18],
  ['evening', 10, 32],
  ['visit', 1, 5],
];

/** How forms were met in those weeks, also by those who sent nothing, as the script on the site tells it. */
export function inventShowings(
  happenings: Happening[],
  sources: Record<Placed, SourceRecord>,
  newId: () => string,
  random: () => number,
): FormEvent[] {
  return happenings.flatMap(({ source, at, page, payload }): FormEvent[] => {
    const found = SEEN_BY.find(([name]) => sources[name].id === source.id);
    if (!found || page === '' || payload.kind !== 'entries') return [];
    const [, least, most] = found;
    const sent = new Map(payload.entries);
    if (sent.has(TRAP_FIELD)) return [];
    const visit = (agent: string) =>
      visitColumns(readVisit((name) => (name === PAGE_FIELD ? page : sent.get(name)), {}, deviceOf(agent)));
    const seen = (more: number): FormEvent[] => {
      const subject = newId();
      const common = {
        subject,
        question: '',
        sourceId: source.id,
        at: Math.max(0, at - Math.round(more * random() * 20 * HOUR_MS)),
      };
      const how = visit(BROWSERS[(more === 0 ? at : at + more) % BROWSERS.length] ?? '');
      const begins = more === 0 || random() < 0.18;
      const asked = (source.live?.fields ?? []).filter(({ widget }) => widget !== 'hidden');
      const answered = begins
        ? asked.slice(0, more === 0 ? asked.length : 1 + Math.floor(random() * asked.length))
        : [];
      return [
        { ...common, ...how, what: 'shown' },
        ...(begins ? [{ ...common, ...how, what: 'started' as const }] : []),
        ...answered.map(({ id }) => ({ ...common, ...how, what: 'answered' as const, question: id })),
      ];
    };
    const others = least + Math.floor(random() * (most - least));
    return Array.from({ length: others + 1 }, (_, more) => seen(more)).flat();
  });
}

const entriesPayload = (entries: Entries): Payload => ({ kind: 'entries', entries, files: [] });

/** An order at the gate: by a number of the range that is kept for fiction (Ofcom, 01632 960000 to 960999). */
function inventOrder(
  person: Invented,
  index: number,
  source: SourceRecord,
  now: number,
  random: () => number,
): Happening {
  const at = Math.round(now - 20 * 60_000 - random() * 10 * DAY_MS);
  const count = 1 + Math.floor(random() * 12);
  const json = {
    order: 1200 + index,
    customer: {
      phone: `+44 1632 960${String(100 + index).padStart(3, '0')}`,
      ...(random() < 0.4 ? { email: person.email } : {}),
      name: { given: person.given, family: person.family },
    },
    evening: isoDay(at + 9 * DAY_MS),
    items: [{ name: 'Evening ticket', count }, ...(random() < 0.5 ? [{ name: 'Star chart', count: 1 }] : [])],
    total: { amount: (count * 12.5).toFixed(2), currency: 'EUR' },
    group: count > 7,
  };
  return { at, source, page: '', person, payload: { kind: 'json', json, files: [] }, confirmsAfter: null };
}

/** Lets the past happen, through the very pieces that do it live, each at its time. */
export async function liveThrough(
  context: Context,
  clock: SetClock,
  mailer: Transporter,
  happenings: Happening[],
  { colleague, now }: { colleague: Actor; now: number },
): Promise<void> {
  const letters: { to: string; link: string }[] = [];
  const postman = {
    sendMail: (mail: { to: string[]; text: string }) => {
      letters.push({ to: mail.to.join(), link: /\/confirm\/([\w-]+)/.exec(mail.text)?.[1] ?? '' });
      return mailer.sendMail(mail);
    },
  } as unknown as Transporter;

  const planningContexts = new PlanningContexts(context.store);

  const ids = new Map<Happening, string>();
  type Moment = { at: number; run: () => Promise<void> };
  const moments: Moment[] = happenings.map((happening) => ({
    at: happening.at,
    run: async () => {
      const { talk } = happening;
      const id = talk
        ? await talkThrough(context, clock, { ...happening, talk }, colleague)
        : await arrive(context, happening);
      ids.set(happening, id);
      await drain(context, SUBMISSION_QUEUE, (id) => planAndStore(context, planningContexts, [id]));
      await drain(context, MAIL_QUEUE, (id) => sendMail(context, postman, { id, owner: OWNER }));
    },
  }));
  for (const { at, person, confirmsAfter } of happenings) {
    if (confirmsAfter === null || at + confirmsAfter > now) continue;
    moments.push({
      at: at + confirmsAfter,
      run: async () => {
        const letter = letters.findLast(({ to, link }) => link !== '' && to.toLowerCase() === person.email);
        if (letter)
          await confirm(context, letter.link, { 'user agent': 'Invented Browser 1.0', address: '192.0.2.10' });
      },
    });
  }
  for (const happening of happenings) {
    const { at, answeredAfter, fetches = false } = happening;
    const own = () => ids.get(happening) ?? '';
    if (fetches) moments.push({ at: at + 60_000, run: () => noteProgress(context.store.db, 'downloaded', [own()]) });
    if (answeredAfter === undefined || at + answeredAfter > now) continue;
    moments.push({
      at: at + answeredAfter,
      run: async () => {
        await noteReply(colleague, context, own());
      },
    });
  }
  let expiredAt = 0;
  for (const { at, run } of moments.sort((a, b) => a.at - b.at)) {
    clock.set(at);
    await run();
    await deliverDue(context);
    if (at - expiredAt < EXPIRY_EVERY_MS) continue;
    expiredAt = at;
    await expireConfirmations(context);
  }
  await expireConfirmations(context);
}

const OWNER = 'demo-history';
const TAKEN_AT_ONCE = 20;
/** How often in the past the clock's own work was done. */
const EXPIRY_EVERY_MS = 6 * HOUR_MS;

/** Delivers what is due, at every connection. */
async function deliverDue(context: Context): Promise<void> {
  const { store } = context;
  const lease = { owner: OWNER, until: context.now() + 60_000, takesOver: true };
  const endings = new OutcomeWriter(context);
  for (const { id: connectionId } of await dueConnections(store.db, context.now())) {
    const share = { connectionId, most: TAKEN_AT_ONCE, pace: null, tryingOut: false };
    for (;;) {
      const taken = await claimDeliveries(store, share, context.now(), lease);
      for (const job of await loadJobs(context, connectionId, { taken, owner: OWNER })) {
        const { stored } = await deliver(context, [job], endings);
        await stored;
      }
      if (taken.length < TAKEN_AT_ONCE) break;
    }
  }
}

async function drain(context: Context, queue: Queue, handle: (id: string) => Promise<unknown>): Promise<void> {
  const lease = { owner: OWNER, until: context.now() + 60_000, takesOver: true };
  for (;;) {
    const taken = await claim(context.store, queue, TAKEN_AT_ONCE, context.now(), lease);
    for (const { id } of taken) await handle(id);
    if (taken.length < TAKEN_AT_ONCE) return;
  }
}

/** Browsers as they say what they run on; invented. */
const BROWSERS = [
  'Mozilla/5.0 (Linux; Android 14; Mobile) Invented/1.0',
  'Mozilla/5.0 (X11; Linux x86_64) Invented/1.0',
  'Mozilla/5.0 (Linux; Android 14) Invented/1.0 Tablet',
];

/** Our forms say which version of them stands on the page. */
const saying = (payload: Payload, version: number): Payload =>
  payload.kind === 'entries'
    ? { ...payload, entries: [...payload.entries, [VERSION_FIELD, String(version)]] }
    : payload;

/** @returns the id of what arrived */
async function arrive(context: Context, { at, source, page, payload }: Happening): Promise<string> {
  if (!source.live) throw new Error('the demo source is not live');
  const version = source.liveVersion ?? 1;
  const taken = await takeSubmission(context, {
    sourceId: source.id,
    sourceVersion: version,
    document: source.live,
    contentType: payload.kind === 'json' ? 'application/json' : 'application/x-www-form-urlencoded',
    payload: source.live.kind === 'form' ? saying(payload, version) : payload,
    headers: {
      ...(page === '' ? {} : { origin: new URL(page).origin, referer: page }),
      'user-agent': payload.kind === 'json' ? 'Box office 3' : (BROWSERS[at % BROWSERS.length] ?? ''),
      address: '192.0.2.10',
    },
    idempotencyKey: null,
    known: {},
    shownAt: null,
  });
  return taken.ok ? (taken.ids[0] ?? '') : '';
}
