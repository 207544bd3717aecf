import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { SecretView } from '../../src/contract/webhook.ts';
import { NEW_REGISTRATION } from '../../src/core/intake/index.ts';
import { MEMBER_FIELD, membersRoute } from '../../src/server/demo/documents.ts';
import { BOX, type Member } from '../../src/standins/site/members.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { ProgramClock } from '../world/programClock.ts';
import { TERN_KEY, World } from '../world/world.ts';

const DAY_MS = 24 * 3_600_000;
const clock = new ProgramClock();
let world: World;
let operator: Operator;
let source: SourceView;
let number = 0;

beforeAll(async () => {
  world = await World.start(clock.env);
  operator = await world.operator();
  await world.changeTernPost(({ fields, tags }) => ({
    fields: [
      ...fields,
      { key: MEMBER_FIELD, label: 'Member', kind: 'figure', required: false, options: [], longest: null },
    ],
    tags: [...tags, { id: 'T-patron', name: 'patron' }, { id: 'T-friend', name: 'friend' }],
  }));
  const ternPost = await operator.connect(world.ternPost, TERN_KEY);
  source = await operator.source('Members of the site', {
    ...NEW_REGISTRATION,
    fields: NEW_REGISTRATION.fields.map((field) => (field.id === 'agrees_email' ? { ...field, label: BOX } : field)),
    proof: { ...NEW_REGISTRATION.proof, by: 'standard webhooks' },
  });
  const { secret } = await operator.put<SecretView>(`/sources/${source.id}/secret`, { secret: '' });
  await fetch(`${world.site}/members-told.json`, {
    method: 'PUT',
    body: JSON.stringify({ url: source.postUrl, secret }),
  });
  const route = membersRoute(source.id, ternPost.id);
  await operator.route('Members', { ...route, consent: { ...route.consent, confirmedBy: { by: 'nobody' } } });
});
afterAll(async () => {
  await world.stop();
  clock.stop();
});

const newAddress = () => `joins${(number += 1)}@hill.example`;
const post = (path: string, fields: Record<string, string>) =>
  fetch(`${world.site}${path}`, { method: 'POST', redirect: 'manual', body: new URLSearchParams(fields) });
const join = (email: string, more: Record<string, string> = {}) =>
  post('/join', { email, given: 'Mara', family: 'Quill', level: 'Patron', agree: 'yes', ...more });
const act = (email: string, what: string) => post(`/membership?email=${encodeURIComponent(email)}`, { act: what });
const memberOf = async (email: string) => (await world.members()).find((one) => one.email === email);
const trailsOf = (email: string, count: number): Promise<TrailView[]> =>
  eventually(
    async () => {
      const { rows } = await operator.submissions(`text=${encodeURIComponent(email)}`);
      return Promise.all(rows.map(({ id }) => operator.trail(id)));
    },
    (trails) =>
      trails.length === count && trails.every(({ progress }) => progress !== 'received' && progress !== 'on its way'),
    20_000,
  );
const personOf = async (email: string): Promise<PersonView> => {
  const { rows } = await operator.get<{ rows: { id: string }[] }>(`/people?text=${encodeURIComponent(email)}`);
  return operator.get<PersonView>(`/people/${rows[0]?.id}`);
};

describe('members of a site', () => {
  it('who joins with the box ticked is in the group, with the flag for all and the tag for the level', async () => {
    const email = newAddress();
    await join(email);
    const [trail] = await trailsOf(email, 1);
    expect(trail).toMatchObject({ progress: 'delivered', values: { event: 'membership.began' } });
    expect(await memberOf(email)).toMatchObject({ groups: ['G-130'], tags: ['patron'], fields: { member: 1 } });
    const { events, values } = await personOf(email);
    expect(events).toMatchObject([{ kind: 'given', wording: BOX, evidence: { 'told by': 'the site' } }]);
    expect(values.find(({ name }) => name === 'membership')?.value).toMatchObject({ level: 'Patron' });
  });

  it('another level takes the place of the first, renewing changes nothing there, ending takes all but the letter', async () => {
    const email = newAddress();
    await join(email);
    await trailsOf(email, 1);
    await act(email, 'Friend');
    await trailsOf(email, 2);
    expect(await memberOf(email)).toMatchObject({ groups: ['G-130'], tags: ['friend'], fields: { member: 1 } });
    await act(email, 'renew');
    await trailsOf(email, 3);
    expect(await memberOf(email)).toMatchObject({ groups: ['G-130'], tags: ['friend'], fields: { member: 1 } });
    await act(email, 'end');
    await trailsOf(email, 4);
    expect(await memberOf(email)).toMatchObject({
      state: 'active',
      lists: ['L-100'],
      groups: [],
      tags: [],
      fields: { member: 0 },
    });
  });

  it('who registers without the box is known, and in no list', async () => {
    const email = newAddress();
    await join(email, { level: '', agree: '' });
    const [trail] = await trailsOf(email, 1);
    expect(trail).toMatchObject({ progress: 'nothing to send', values: { event: 'member.registered' } });
    expect(await memberOf(email)).toBeUndefined();
    expect((await personOf(email)).events).toMatchObject([{ kind: 'not given', wording: BOX }]);
  });

  it('a payment that was only tried makes nobody a member', async () => {
    const email = newAddress();
    await join(email, { test: 'yes' });
    const tried = await eventually(
      async () => {
        const { rows } = await operator.submissions(`source=${source.id}`);
        return Promise.all(rows.slice(0, 3).map(({ id }) => operator.trail(id)));
      },
      (trails) => trails.some(({ values, plan }) => values.email === email && plan !== null),
    );
    expect(tried.find(({ values }) => values.email === email)).toMatchObject({
      deliveries: [],
      plan: { contact: null, notes: [{ code: 'a test' }] },
    });
    expect(await memberOf(email)).toBeUndefined();
  });

  it('who stops the letter in the account leaves the list', async () => {
    const email = newAddress();
    await join(email);
    await trailsOf(email, 1);
    await act(email, 'no');
    const told = (await trailsOf(email, 2)).find(({ values }) => values.event === 'agreement.changed');
    expect(told?.plan?.consent).toMatchObject([{ kind: 'withdrawn', wording: 'Stopped in the account.' }]);
    expect((await memberOf(email))?.state).toBe('left');
  });

  it('a membership that nobody renews ends by the clock, once, and what it gave is taken', async () => {
    const [ends, stays] = [newAddress(), newAddress()];
    const day = (at: number) => new Date(at).toISOString().slice(0, 10);
    const members: Member[] = [ends, stays].map((email) => ({
      email,
      given: 'Ada',
      family: 'Quill',
      level: 'Patron',
      begins: '2026-01-01',
      ends: day(Date.now() + (email === ends ? 1 : 400) * DAY_MS),
      agrees: { says: 'yes', words: BOX, at: new Date().toISOString() },
    }));
    await fetch(`${world.site}/members.json`, { method: 'PUT', body: JSON.stringify(members) });
    for (const { email } of members) await act(email, 'Patron');
    await trailsOf(ends, 1);
    await trailsOf(stays, 1);
    expect(await memberOf(ends)).toMatchObject({ groups: ['G-130'], tags: ['patron'], fields: { member: 1 } });
    const second = await world.oneMoreWorker();
    await clock.put(3 * DAY_MS, [world.server, world.worker, second]);
    const lapsed = (await trailsOf(ends, 2)).find(({ values }) => values.event === 'membership.lapsed');
    expect(lapsed?.progress).toBe('delivered');
    expect(await memberOf(ends)).toMatchObject({ state: 'active', groups: [], tags: [], fields: { member: 0 } });
    expect(await memberOf(stays)).toMatchObject({ groups: ['G-130'], fields: { member: 1 } });
    await clock.put(4 * DAY_MS, [world.server, world.worker, second]);
    expect(await trailsOf(ends, 2)).toHaveLength(2);
    expect(await trailsOf(stays, 1)).toHaveLength(1);
    second.kill('SIGTERM');
    await clock.put(0, [world.server, world.worker]);
  });
});

describe('a site that tells the parts of a membership apart', () => {
  it('gives one, whose last day is over when it is over there: no earlier, and told once', async () => {
    const zone = 'Pacific/Auckland';
    const flat = await operator.source('Members, told in parts', {
      ...NEW_REGISTRATION,
      membershipPaths: { level: '$.plan', begins: '$.since', ends: '$.until' },
      zone,
    });
    const email = newAddress();
    const today = new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(Date.now());
    const joined = {
      id: 'flat-1',
      type: 'membership.began',
      test: false,
      member: { email, name: { given: 'Noa', family: 'Quill' } },
      plan: 'Friend',
      since: '2026-01-01T09:00:00+13:00',
      until: today,
    };
    const sent = await fetch(flat.postUrl, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(joined),
    });
    expect(sent.status).toBe(202);
    const [trail] = await trailsOf(email, 1);
    expect(trail?.values.membership).toEqual({ level: 'Friend', begins: '2026-01-01', ends: today, zone });
    const [noted] = await world.rows<{ at: number }>(
      `SELECT lapses_at AS at FROM memberships WHERE source_id = '${flat.id}'`,
    );
    const dayThere = (at: number) => new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(at);
    const at = noted?.at ?? 0;
    expect([dayThere(at - 1), dayThere(at) > today]).toEqual([today, true]);
    await clock.put(at - Date.now() + 5_000, [world.server, world.worker]);
    const lapsed = (await trailsOf(email, 2)).find(({ values }) => values.event === 'membership.lapsed');
    expect(lapsed?.values.membership).toEqual(trail?.values.membership);
    await clock.put(0, [world.server, world.worker]);
  });

  it('does not go live with a place that is none, or a zone that is not there', async () => {
    const draft = {
      ...NEW_REGISTRATION,
      membershipPaths: { level: 'plan', begins: '', ends: '' },
      zone: 'Pellam/Ridge',
    };
    await expect(operator.source('Members, misread', draft)).rejects.toThrow(/not a JSONPath|no time zone/);
  });
});
