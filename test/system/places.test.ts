import { createHmac } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OverviewView } from '../../src/contract/overview.ts';
import type { NoticeView, PersonView, PlaceView } from '../../src/contract/people.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { Target } from '../../src/core/plan/index.ts';
import { profileOf } from '../../src/server/connectors/registry.ts';
import { skyLetterRoute } from '../../src/server/demo/documents.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { CAPSTAN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;
let number = 0;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  wired = await observatory(world, operator, 'single');
});
afterAll(() => world.stop());

const newAddress = () => `placed${(number += 1)}@hill.example`;
const submit = (email: string, more: Record<string, string> = {}) => submitJson(wired.source, fields(email, more));
const memberOf = async (email: string) => (await world.members()).find((member) => member.email === email);
const only = ({ deliveries: [delivery] }: TrailView) => {
  if (!delivery) throw new Error('there is no delivery');
  return delivery;
};
async function changeTarget(change: Partial<Target>): Promise<RouteView> {
  const { draft } = await operator.get<RouteView>(`/routes/${wired.route.id}`);
  await operator.put(`/routes/${wired.route.id}/draft`, {
    ...draft,
    targets: draft.targets.map((target) => ({ ...target, ...change })),
  });
  return operator.post<RouteView>(`/routes/${wired.route.id}/publish`);
}
const personOf = async (email: string) => {
  const { rows } = await operator.get<{ rows: { id: string }[] }>(`/people?text=${email}`);
  return rows[0]?.id ?? '';
};

describe('people leave other places when they arrive', () => {
  it('a list, a group and a tag are taken away, and read back as gone', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    await world.changeTernPost(({ members }) => ({
      members: members.map((member) =>
        member.email === email
          ? { ...member, lists: ['L-100', 'L-200', 'L-300'], groups: ['G-120', 'G-210'], tags: ['asked', 'newsletter'] }
          : member,
      ),
    }));
    await changeTarget({
      leaves: [
        { list: 'L-300', group: '' },
        { list: 'L-100', group: 'G-120' },
      ],
      tagsOff: ['asked'],
    });
    const trail = await operator.trailWhen(await submit(email, { name: 'Mara Again' }), 'delivered');
    expect(only(trail).readBack?.filter(({ meant }) => meant.startsWith('not '))).toEqual([
      { what: 'List', meant: 'not Press', found: 'not Press', same: true },
      { what: 'Group', meant: 'not From the shop', found: 'not From the shop', same: true },
      { what: 'Tag', meant: 'not asked', found: 'not asked', same: true },
    ]);
    const member = await memberOf(email);
    expect(member?.lists).toEqual(['L-100', 'L-200']);
    expect(member?.groups).toEqual(['G-210', 'G-110']);
    expect(member?.tags).not.toContain('asked');
  });

  it('what contradicts itself, or cannot be done, does not go live', async () => {
    const { draft } = await operator.get<RouteView>(`/routes/${wired.route.id}`);
    const put = (change: Partial<Target>) =>
      operator.put(`/routes/${wired.route.id}/draft`, {
        ...draft,
        targets: draft.targets.map((target) => ({ ...target, ...change })),
      });
    await put({ leaves: [{ list: 'L-100', group: '' }], tagsOff: ['newsletter'] });
    const { findings } = await operator.get<RouteView>(`/routes/${wired.route.id}`);
    expect(findings.filter(({ level }) => level === 'blocker').map(({ message }) => message)).toEqual([
      'People are put into Sky letter and taken out of it again.',
      'Set and taken off by the same target: newsletter.',
    ]);
    expect((await operator.send('POST', `/routes/${wired.route.id}/publish`)).ok).toBe(false);
    await put({ leaves: [], tagsOff: [] });
    await operator.post(`/routes/${wired.route.id}/publish`);
  });
});

/** What happens while nothing is sent to the connection. */
async function stopped(run: () => Promise<void>): Promise<void> {
  await operator.post(`/connections/${wired.connection.id}/pause`);
  await run();
  await operator.post(`/connections/${wired.connection.id}/resume`);
}

describe('several people by one request', () => {
  it('one who is refused holds up none of the others, and each sees their own part only', async () => {
    const good = Array.from({ length: 5 }, newAddress);
    const left = newAddress();
    await operator.trailWhen(await submit(left), 'delivered');
    await world.changeTernPost(({ members }) => ({
      members: members.map((member) =>
        member.email === left ? { ...member, state: 'left' as const, leftAt: new Date().toISOString() } : member,
      ),
    }));
    let ids: string[] = [];
    await stopped(async () => {
      ids = await Promise.all([...good, left].map((email) => submit(email, { name: 'Mara Together' })));
      await eventually(
        () => operator.connection(wired.connection.id),
        ({ waiting }) => waiting === ids.length,
      );
    });
    const trails = await Promise.all(ids.slice(0, 5).map((id) => operator.trailWhen(id, 'delivered')));
    const refused = only(await operator.trailWhen(ids[5] ?? '', 'held'));
    expect(refused).toMatchObject({ cause: 'left there before', attempts: [{ number: 1 }] });
    const exchanges = [...trails.map(only), refused].flatMap(({ attempts }) => attempts[0]?.exchanges ?? []);
    expect(exchanges.filter(({ url }) => url.endsWith('/members/batch')).map(({ together }) => together)).toEqual(
      Array(6).fill(6),
    );
    for (const [index, trail] of trails.entries()) {
      const text = JSON.stringify(trail);
      expect(text).toContain(good[index]);
      expect(good.filter((email) => text.includes(email))).toHaveLength(1);
      expect(text).not.toContain(left);
      expect(only(trail).readBack?.every(({ same }) => same)).toBe(true);
    }
    expect((await world.members()).filter(({ email }) => good.includes(email)).map(({ changes }) => changes)).toEqual(
      Array(5).fill(1),
    );
  });

  it('a request that breaks off is looked into person by person, and nothing is applied twice', async () => {
    const people = Array.from({ length: 6 }, newAddress);
    let ids: string[] = [];
    await stopped(async () => {
      ids = await Promise.all(people.map((email) => submit(email)));
      await eventually(
        () => operator.connection(wired.connection.id),
        ({ waiting }) => waiting === ids.length,
      );
      await world.faults({ next: 1, kind: 'drop', path: '/v1/members/batch' });
    });
    const trails = await Promise.all(ids.map((id) => operator.trailWhen(id, 'delivered')));
    expect(trails.map((trail) => only(trail).attempts[0]?.cause)).toEqual(Array(6).fill('time-out'));
    const members = (await world.members()).filter(({ email }) => people.includes(email));
    expect(members.map(({ changes }) => changes)).toEqual(Array(6).fill(1));
  });
});

const unsubscribe = (id: string, reason: string) =>
  operator.send('POST', `/people/${id}/places`, { connectionId: wired.connection.id, act: 'unsubscribe', reason });

describe('what is on its way when a person withdraws', () => {
  it('is not sent any more; a newer sign-up counts again', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const id = await personOf(email);
    let late = '';
    await stopped(async () => {
      late = await submit(email, { name: 'Mara Too Late' });
      await eventually(
        () => operator.connection(wired.connection.id),
        ({ waiting }) => waiting === 1,
      );
      expect((await unsubscribe(id, 'Wrote to us.')).status).toBe(200);
    });
    const dropped = only(await operator.trailWhen(late, 'dropped'));
    expect(dropped).toMatchObject({ cause: 'consent withdrawn', attempts: [{ exchanges: [] }] });
    const member = await memberOf(email);
    expect(member?.state).toBe('left');
    expect(JSON.stringify(member)).not.toContain('Too Late');
    expect((await operator.connection(wired.connection.id)).lastFailure?.cause).not.toBe('consent withdrawn');
    // The very same form, sent again: asked for what this service wants of those who come back.
    const again = only(await operator.trailWhen(await submit(email), 'held'));
    expect(again.cause).toBe('left there before');
  });

  it('the withdrawal is written down even when the other system does not take it', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const [id, member] = [await personOf(email), await memberOf(email)];
    await world.faults({ next: 1, kind: 'status', status: 500, path: `/v1/members/${member?.id}/leave` });
    const failed = await unsubscribe(id, 'Asked by post.');
    expect(failed.status).toBe(422);
    expect(await failed.json()).toMatchObject({ title: expect.stringContaining('consent withdrawn') as string });
    const events = async () =>
      (await operator.get<PersonView>(`/people/${id}`)).events.filter(({ kind }) => kind === 'withdrawn');
    expect(await events()).toMatchObject([{ wording: 'Asked by post.' }]);
    expect((await unsubscribe(id, 'Asked by post.')).status).toBe(200);
    expect(await events()).toHaveLength(1);
    expect(await memberOf(email)).toMatchObject({ state: 'left' });
  });
});

describe('what a service tells us', () => {
  const withdrawals = async (id: string) =>
    (await operator.get<PersonView>(`/people/${id}`)).events.filter(({ kind }) => kind === 'withdrawn');
  const notices = () => operator.get<NoticeView[]>(`/connections/${wired.connection.id}/notices`);
  const hooks = async () =>
    ((await (await fetch(`${world.ternPost}/inside.json`)).json()) as { hooks: { address: string; secret: string }[] })
      .hooks;

  it('is listened to once our address is registered there and its signature proven', async () => {
    expect(wired.connection.notices).toEqual({ on: false, since: null, provenAt: null, reachedAt: world.app });
    await operator.post(`/connections/${wired.connection.id}/notices`);
    await operator.post(`/connections/${wired.connection.id}/notices`);
    const proven = await eventually(
      () => operator.connection(wired.connection.id),
      ({ notices: told }) => told?.provenAt !== null,
    );
    expect(proven.notices?.on).toBe(true);
    expect(await hooks()).toHaveLength(1);
    expect(await notices()).toEqual([]);
  });

  it('an unsubscribe there is a withdrawal here, with who told us', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const { today } = await operator.get<OverviewView>('/overview');
    const member = await memberOf(email);
    await fetch(`${world.ternPost}/members/${member?.id}/leave`, { method: 'POST', redirect: 'manual' });
    const id = await personOf(email);
    const [withdrawn] = await eventually(
      () => withdrawals(id),
      (events) => events.length > 0,
    );
    expect(withdrawn).toMatchObject({ purpose: 'Sky letter', wording: 'Unsubscribed in Tern Post.' });
    const person = await operator.get<PersonView>(`/people/${id}`);
    expect(person.consent).toEqual([{ purpose: 'Sky letter', channel: 'email', state: 'withdrawn' }]);
    expect(person.notices).toMatchObject([{ kind: 'member.left', meaning: 'unsubscribed' }]);
    // Nobody handed anything over by that.
    expect((await operator.get<OverviewView>('/overview')).today.submissions).toBe(today.submissions);
    const count = async (which: string) => (await operator.submissions(which)).rows.length;
    expect([await count('notices=without'), await count('')]).toEqual([today.submissions, today.submissions + 1]);
  });

  it('the same told twice counts once; what is not signed rightly, or is old, does not count at all', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const id = await personOf(email);
    const [hook] = await hooks();
    const body = JSON.stringify({
      events: [{ id: 'E-told', kind: 'member.left', at: new Date().toISOString(), member: { email } }],
    });
    const tell = (text: string, secondsAgo = 0, secret = hook?.secret ?? '') => {
      const time = String(Math.floor(Date.now() / 1000) - secondsAgo);
      const signature = createHmac('sha256', secret).update(`${time}:${text}`).digest('hex');
      return fetch(hook?.address ?? '', {
        method: 'POST',
        headers: { 'tern-time': time, 'tern-signature': signature },
        body: text,
      });
    };
    expect((await tell(body, 0, 'another secret')).status).toBe(401);
    expect((await tell(body, 3600)).status).toBe(401);
    expect((await tell('{')).status).toBe(400);
    expect(await withdrawals(id)).toEqual([]);
    expect((await tell(body)).status).toBe(204);
    expect((await tell(body)).status).toBe(204);
    await eventually(
      () => withdrawals(id),
      (events) => events.length > 0,
    );
    // Told again a day later, when it is no repeat by its time any more.
    await world.rows("UPDATE submissions SET repeat_key = id WHERE field_values LIKE '%E-told%'");
    expect((await tell(body)).status).toBe(204);
    const told = await eventually(
      () => operator.get<PersonView>(`/people/${id}`),
      ({ submissions }) => submissions.filter(({ sourceName }) => sourceName.startsWith('What ')).length === 2,
    );
    const notes = await eventually(
      async () => (await operator.trail(told.submissions[0]?.id ?? '')).plan?.notes ?? [],
      (all) => all.length > 0,
    );
    expect(notes).toMatchObject([{ code: 'told before' }]);
    expect(await withdrawals(id)).toHaveLength(1);
    // It is a submission as any other: kept as it came, with what followed.
    const first = told.submissions.at(-2);
    expect((await operator.trail(first?.id ?? '')).raw.payload).toMatchObject({ kind: 'json' });
    expect((await fetch(`${world.app}/notices/somewhere-else`, { method: 'POST', body })).status).toBe(404);
  });

  it('who is unsubscribed there from here, and told of by the service too, has withdrawn once', async () => {
    const email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    const id = await personOf(email);
    await unsubscribe(id, 'Rang us up.');
    await eventually(notices, (told) => told.some(({ contactId }) => contactId === id));
    expect(await withdrawals(id)).toMatchObject([{ wording: 'Rang us up.' }]);
  });

  it('is not listened to any more once our address is taken away there', async () => {
    const [hook] = await hooks();
    expect((await operator.send('DELETE', `/connections/${wired.connection.id}/notices`)).status).toBe(200);
    expect(await hooks()).toEqual([]);
    expect((await fetch(hook?.address ?? '', { method: 'POST', body: '{}' })).status).toBe(404);
  });
});

describe('how other systems hold a person', () => {
  let id = '';
  let email = '';
  beforeAll(async () => {
    email = newAddress();
    await operator.trailWhen(await submit(email), 'delivered');
    id = await personOf(email);
  });
  const places = () => operator.get<PlaceView[]>(`/people/${id}/places`);
  const act = (more: object) =>
    operator.post<PlaceView>(`/people/${id}/places`, { connectionId: wired.connection.id, ...more });

  it('is asked at this moment', async () => {
    const [place] = await places();
    expect(place).toMatchObject({
      connectionId: wired.connection.id,
      problem: null,
      held: {
        standing: 'subscribed',
        lists: [{ id: 'L-100', name: 'Sky letter' }],
        groups: [{ id: 'G-110', name: 'From the web site', list: 'L-100' }],
      },
      can: { leaveLists: true, leaveGroups: true, untag: true, standings: ['subscribed', 'unsubscribed'] },
    });
  });

  it('can be taken out of places and tags, and put back', async () => {
    expect((await act({ act: 'take tag off', tag: 'newsletter' })).held?.tags).not.toContain('newsletter');
    expect((await act({ act: 'put back', tag: 'newsletter' })).held?.tags).toContain('newsletter');
    expect((await act({ act: 'take out', list: 'L-100', group: 'G-110' })).held?.groups).toEqual([]);
    expect((await act({ act: 'take out', list: 'L-100' })).held?.lists).toEqual([]);
    expect((await act({ act: 'put back', list: 'L-100', group: 'G-110' })).held).toMatchObject({
      lists: [{ id: 'L-100' }],
      groups: [{ id: 'G-110' }],
    });
  });

  it('an unsubscribe needs the reason, and is kept as a withdrawal; coming back needs a newer confirmation', async () => {
    const about = { connectionId: wired.connection.id, act: 'unsubscribe' };
    expect((await operator.send('POST', `/people/${id}/places`, about)).status).toBe(422);
    expect((await act({ act: 'unsubscribe', reason: 'Wrote to us on Monday.' })).held?.standing).toBe('unsubscribed');
    const { events } = await operator.get<PersonView>(`/people/${id}`);
    expect(events.find(({ kind }) => kind === 'withdrawn')).toMatchObject({
      wording: 'Wrote to us on Monday.',
      evidence: { by: 'Wren' },
    });
    const back = await operator.send('POST', `/people/${id}/places`, { ...about, act: 'subscribe' });
    expect(back.status).toBe(422);
    expect(await back.json()).toMatchObject({ title: expect.stringContaining('confirm anew') as string });
  });

  it('says when it cannot be asked', async () => {
    await world.changeTernPost(({ keys }) => ({ keys: keys.map((key) => ({ ...key, revoked: true })) }));
    expect(await places()).toMatchObject([{ problem: 'This key is not known.', held: null }]);
    await world.changeTernPost(({ keys }) => ({ keys: keys.map((key) => ({ ...key, revoked: false })) }));
  });
});

it('a service that takes people out of segments only offers just that', async () => {
  const capstan = await world.standIn('capstan', {
    CAPSTAN_KEY: CAPSTAN.key,
    CAPSTAN_SECRET: CAPSTAN.secret,
  });
  const { catalogue }: ConnectionView = await operator.connectTo('capstan', capstan.url, CAPSTAN);
  expect(catalogue?.can).toMatchObject({ leavesLists: true, leavesGroups: false, untags: false });
});

it('where nobody can be unsubscribed from here, the withdrawal is a task for somebody', async () => {
  const { subscription, place: _place, webhooks: _webhooks, ...rest } = profileOf('tern-post');
  const document = {
    ...rest,
    id: 'quiet-post',
    name: 'Quiet Post',
    subscription: { means: subscription?.means ?? {} },
  };
  await operator.put('/profiles/quiet-post', { document });
  const quiet = await operator.connectTo('quiet-post', world.ternPost, { key: TERN_KEY });
  await operator.post(`/routes/${wired.route.id}/pause`);
  const route = skyLetterRoute(wired.source.id, quiet.id);
  await operator.route('To Quiet Post', { ...route, consent: { ...route.consent, confirmedBy: { by: 'nobody' } } });
  const email = newAddress();
  await operator.trailWhen(await submit(email), 'delivered');
  const id = await personOf(email);
  await operator.post(`/people/${id}/places`, { act: 'unsubscribe', connectionId: quiet.id, reason: 'Rang us up.' });
  const { consent, deliveries } = await operator.get<PersonView>(`/people/${id}`);
  expect(consent).toMatchObject([{ state: 'withdrawn' }]);
  expect(deliveries.map(({ state, cause }) => [state, cause])).toContainEqual(['held', 'to be ended by hand']);
});
