import path from 'node:path';
import { stat } from 'node:fs/promises';
import { deliveryWord } from '../../src/core/delivery/index.ts';
import { plainLine } from '../../src/core/mapping/index.ts';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { BulkView, HeldGroupView } from '../../src/contract/deliveries.ts';
import { progressWord, type TrailView } from '../../src/contract/submissions.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { Profile } from '../../src/contract/profile/index.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { RouteView } from '../../src/contract/route.ts';
import { ROUTE_FORMAT, type Target } from '../../src/core/plan/index.ts';
import type { SourceField } from '../../src/core/values/index.ts';
import {
  bellTarget,
  enquiryTarget,
  schoolForm,
  schoolRoute,
  signUpsTarget,
  skyLetterForm,
} from '../../src/server/demo/documents.ts';
import { profileOf } from '../../src/server/connectors/registry.ts';
import type { BellbuoyState } from '../../src/standins/bellbuoy/app.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import { sourceField } from '../world/fields.ts';
import { fields, submitForm, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { BELL, CAPSTAN, ROWBARN, TERN_KEY, World } from '../world/world.ts';

/** Mail to a colleague by a connection of its own. */
const noticeTarget = (connectionId: string): Target => {
  const line = (to: string, text: string, kind: 'text' | 'fixed' = 'text') =>
    plainLine({
      id: `l-${to}`,
      to,
      from: kind === 'text' ? { kind, text } : { kind, value: text },
    });
  return {
    ...bellTarget(connectionId),
    lines: [
      line('from', 'letter@pellam-ridge.example', 'fixed'),
      line('to', 'front-desk@pellam-ridge.example', 'fixed'),
      line('replyTo', '{email}'),
      line('subject', 'School visit: {school}'),
      line('text', '{first} {last} of {school} asks for a visit with {pupils} pupils.\nAnswer to: {email}'),
    ],
  };
};

let world: World;
let operator: Operator;
let others: Awaited<ReturnType<World['others']>>;
let school: SourceView;
let sky: SourceView;
let number = 0;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  others = await world.others();
  school = await operator.form('School visit request', { ...schoolForm(), minimumSeconds: 0 });
  sky = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
});
afterAll(() => world.stop());
beforeEach(async () => {
  await Promise.all([others.capstan, others.rowbarn, others.bellbuoy].map((standIn) => standIn.noFaults()));
});

const newAddress = () => `teacher${(number += 1)}@hill.example`;
const visit = (email: string, more: Record<string, string> = {}) =>
  submitJson(school, {
    first: 'Mara',
    last: 'Quill',
    email,
    school: 'Lantern Hill School',
    pupils: '24',
    visits: 'first time',
    ...more,
  });

/** One route from the school form to one target; others are paused, so that each test sees its own delivery only. */
let live: { id: string } | null = null;
async function wire(...targets: [Target, ...Target[]]): Promise<void> {
  if (live) await operator.post(`/routes/${live.id}/pause`);
  const document = schoolRoute(school.id, targets[0].connectionId);
  live = await operator.route('School visits', { ...document, mails: [], targets });
}
const only = ({ deliveries }: TrailView) => {
  if (deliveries.length !== 1 || !deliveries[0]) throw new Error(`${deliveries.length} deliveries`);
  return deliveries[0];
};
const verifyProblem = async (profile: string, url: string, credentials: Record<string, string>) => {
  const result = await operator.tryTo(profile, url, credentials);
  return result.ok ? null : result;
};

describe('Capstan: a key, and a secret that signs', () => {
  let connection: ConnectionView;
  beforeAll(async () => {
    connection = await operator.connectTo('capstan', others.capstan.url, CAPSTAN);
  });
  const records = async () => (await others.capstan.inside<CapstanState>()).records;

  it('says whose it is, what came back, and what it cannot do', () => {
    expect(connection.verify).toMatchObject({ ok: true, account: 'Pellam Ridge front office', kinds: 3, lists: 3 });
    expect(connection.catalogue?.kinds.map(({ name, fields: own }) => [name, own.length])).toEqual([
      ['Person', 7],
      ['Enquiry', 5],
      ['Call back', 5],
    ]);
    expect(connection.catalogue?.can).toMatchObject({ tags: false, calls: { list: 'segment' } });
    expect(JSON.stringify(connection)).not.toContain(CAPSTAN.secret);
  });

  it('tells a wrong secret, a key of nobody (a 404) and a missing right from one another', async () => {
    const { url } = others.capstan;
    expect(await verifyProblem('capstan', url, { ...CAPSTAN, secret: 'wrong' })).toMatchObject({
      refused: true,
      problem: expect.stringContaining('does not fit') as string,
    });
    expect(await verifyProblem('capstan', url, { ...CAPSTAN, key: 'nobody' })).toMatchObject({
      refused: true,
      problem: expect.stringContaining('No office answers to this key') as string,
    });
    expect(await verifyProblem('capstan', url, { ...CAPSTAN, key: `${CAPSTAN.key}-looks-only` })).toMatchObject({
      refused: false,
      problem: expect.stringContaining('lacks a permission: write') as string,
    });
    expect(await verifyProblem('capstan', url, { key: CAPSTAN.key })).toMatchObject({ about: 'secret' });
  });

  it('makes an enquiry by a form post, puts it into its segment, and reads it back', async () => {
    await wire(enquiryTarget(connection.id));
    const email = newAddress();
    const trail = await operator.trailWhen(await visit(email), 'delivered');
    expect(only(trail).readBack?.every(({ same }) => same)).toBe(true);
    expect((await records()).filter(({ cells }) => cells.mail === email)).toMatchObject([
      {
        kind: 'enquiry',
        segments: ['S1'],
        cells: {
          subject: 'Visit of Lantern Hill School',
          heads: '24',
          note: 'From Mara Quill. Has been here: first time.',
        },
      },
    ]);
    expect(JSON.stringify(trail)).not.toContain(CAPSTAN.secret);
  });

  it('adds another enquiry of the same person, since the route says so', async () => {
    const email = newAddress();
    await operator.trailWhen(await visit(email), 'delivered');
    await operator.trailWhen(await visit(email, { pupils: '30' }), 'delivered');
    expect((await records()).filter(({ cells }) => cells.mail === email).map(({ cells }) => cells.heads)).toEqual([
      '24',
      '30',
    ]);
  });

  it('changes a person who is there, and stores yes and no in its own words', async () => {
    await wire({
      ...enquiryTarget(connection.id),
      kind: 'person',
      places: [],
      duplicates: 'update',
      lines: [
        plainLine({ id: 'l-mail', to: 'mail', from: { kind: 'field', field: 'email' } }),
        plainLine({ id: 'l-called', to: 'called', from: { kind: 'text', text: '{first} {last}' } }),
        plainLine({ id: 'l-wants_letter', to: 'wants_letter', from: { kind: 'fixed', value: 'yes' } }),
      ],
    });
    const email = newAddress();
    await operator.trailWhen(await visit(email), 'delivered');
    await operator.trailWhen(await visit(email, { last: 'Quillfeather' }), 'delivered');
    expect((await records()).filter(({ cells }) => cells.mail === email)).toMatchObject([
      { kind: 'person', changes: 2, cells: { called: 'Mara Quillfeather', wants_letter: '1' } },
    ]);
  });

  it('notices a field made required there, and which route that touches', async () => {
    await others.capstan.change<CapstanState>(({ kinds }) => ({
      kinds: kinds.map((kind) => ({
        ...kind,
        columns: kind.columns.map((column) => (column.code === 'town' ? { ...column, must: true } : column)),
      })),
    }));
    const held = only(await operator.trailWhen(await visit(newAddress()), 'held'));
    expect(held).toMatchObject({ cause: 'required field missing', causeDetail: 'Town must be filled.' });
    const { changes } = await operator.verify(connection.id);
    expect(changes).toMatchObject([
      { level: 'warning', text: 'The field Town is now required.', routes: [{ name: 'School visits' }] },
    ]);
    await others.capstan.change<CapstanState>(({ kinds }) => ({
      kinds: kinds.map((kind) => ({
        ...kind,
        columns: kind.columns.map((column) => ({ ...column, must: column.code === 'mail' })),
      })),
    }));
    await operator.verify(connection.id);
    await operator.post(`/deliveries/${held.id}/retry`);
    await operator.trailWhen(held.submissionId, 'delivered');
  });

  it('makes a segment and a column from here, ready to be chosen', async () => {
    const made = await operator.post<{ id: string; connection: ConnectionView }>(`/connections/${connection.id}/make`, {
      what: 'list',
      name: 'Volunteers',
    });
    expect(made.connection.catalogue?.lists.find(({ id }) => id === made.id)?.name).toBe('Volunteers');
    const field = await operator.post<{ id: string; connection: ConnectionView }>(
      `/connections/${connection.id}/make`,
      {
        what: 'field',
        kind: 'person',
        name: 'Favourite planet',
      },
    );
    expect(field.connection.catalogue?.kinds[0]?.fields.map(({ key }) => key)).toContain(field.id);
  });
});

describe('Rowbarn: access granted in its own window', () => {
  let connection: ConnectionView;
  beforeAll(async () => {
    connection = await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN);
  });
  const state = () => others.rowbarn.inside<RowbarnState>();

  it('waits for the grant, says when it is refused, and is connected once it is given', async () => {
    expect([connection.state, connection.returnUrl]).toEqual(['ungranted', `${world.app}/api/connections/granted`]);
    // What went wrong is no text of an address, which anybody could write.
    expect(await operator.grant(connection.id, 'no')).toBe(`/connections/${connection.id}`);
    expect((await operator.connection(connection.id)).verify).toMatchObject({
      ok: false,
      problem: expect.stringContaining('Access was refused there') as string,
    });
    expect(await operator.grant(connection.id)).toBe(`/connections/${connection.id}`);
    connection = await operator.connection(connection.id);
    expect(connection).toMatchObject({
      state: 'active',
      verify: { ok: true, account: 'Pellam Ridge sheets', kinds: 3 },
    });
    expect(connection.catalogue?.kinds[0]?.fields.map(({ label }) => label)).toEqual([
      'Email',
      'When',
      'Source',
      'Name',
    ]);
  });

  it('takes an answer once, and none that was not asked for', async () => {
    const window = new URL((await operator.post<{ url: string }>(`/connections/${connection.id}/grant`)).url);
    const asked = window.searchParams.get('state') ?? '';
    const answer = (state: string) => operator.send('GET', `/connections/granted?code=none&state=${state}`);
    const endOf = async (state: string) => (await answer(state)).url.split('?').at(-1);
    expect(await endOf('made-up')).toBe('grant=used');
    expect(await endOf(asked)).toBe('grant=refused');
    expect(await endOf(asked)).toBe('grant=used');
    expect(await operator.connection(connection.id)).toMatchObject({ state: 'active', verify: { ok: true } });
  });

  it('adds a row of text, and a second one for the same person', async () => {
    const document = schoolRoute(sky.id, connection.id);
    await operator.route('Sheet', {
      ...document,
      consent: {
        ...document.consent,
        asks: document.consent.asks.map((ask) => ({ ...ask, tickField: 'consent' })),
      },
      mails: [],
      accepted: {},
      targets: [signUpsTarget(connection.id)],
    });
    const email = newAddress();
    await operator.trailWhen(await submitJson(sky, fields(email)), 'delivered');
    const trail = await operator.trailWhen(await submitJson(sky, fields(email, { name: 'Mara Back' })), 'delivered');
    expect(only(trail).readBack?.every(({ same }) => same)).toBe(true);
    const rows = (await state()).sheets[0]?.rows.filter(({ cells }) => cells.Email === email);
    expect(rows?.map(({ cells }) => cells)).toEqual([
      { Email: email, Name: 'Mara Quill', Source: 'Sky letter, page sky-letter' },
      { Email: email, Name: 'Mara Back', Source: 'Sky letter, page sky-letter' },
    ]);
  });

  it('adds a row once when the connection breaks after sending', async () => {
    const email = newAddress();
    await others.rowbarn.faults({ next: 3, kind: 'drop', path: '/v2/sheets' });
    await operator.trailWhen(await submitJson(sky, fields(email)), 'delivered');
    expect((await state()).sheets[0]?.rows.filter(({ cells }) => cells.Email === email)).toHaveLength(1);
  });

  it('renews a token that ends, once, however many deliveries need it', async () => {
    await others.rowbarn.change<RowbarnState>(({ grants }) => ({
      grants: grants.filter(({ kind }) => kind !== 'access'),
      refreshes: 0,
    }));
    await Promise.all(
      Array.from({ length: 8 }, async () =>
        operator.trailWhen(await submitJson(sky, fields(newAddress())), 'delivered'),
      ),
    );
    expect((await state()).refreshes).toBe(1);
  });

  it('holds everything at once when the grant is taken back, and goes on after a new one', async () => {
    await others.rowbarn.change<RowbarnState>(() => ({ grants: [] }));
    const ids = await Promise.all(Array.from({ length: 4 }, () => submitJson(sky, fields(newAddress()))));
    await Promise.all(ids.map((id) => operator.trailWhen(id, 'held')));
    const attempts = (await Promise.all(ids.map((id) => operator.trail(id)))).flatMap((trail) => only(trail).attempts);
    expect(attempts.length).toBeLessThanOrEqual(ids.length);
    expect(await operator.connection(connection.id)).toMatchObject({ state: 'refused', held: 4 });
    await operator.grant(connection.id);
    await Promise.all(ids.map((id) => operator.trailWhen(id, 'delivered')));
    expect((await operator.connection(connection.id)).state).toBe('active');
  });
});

describe('a service that lets programs in by themselves (OAuth client credentials)', () => {
  let connection: ConnectionView;
  const document: Profile = {
    ...profileOf('rowbarn'),
    id: 'rowbarn-by-client',
    authentication: { kind: 'OAuth, by client', token: '/oauth/token', scopes: ['sheets.read', 'sheets.append'] },
  };
  const accessTokens = async () =>
    (await others.rowbarn.inside<RowbarnState>()).grants.filter(({ kind }) => kind === 'access');
  beforeAll(async () => {
    await operator.put(`/profiles/${document.id}`, { document });
    await others.rowbarn.change<RowbarnState>(() => ({ grants: [] }));
    connection = await operator.connectTo(document.id, others.rowbarn.url, ROWBARN);
    await wire({
      ...signUpsTarget(connection.id),
      lines: [plainLine({ id: 'l-Email', to: 'Email', from: { kind: 'field', field: 'email' } })],
    });
  });

  it('needs nobody to grant anything', () => {
    expect(connection).toMatchObject({ state: 'active', returnUrl: '', verify: { ok: true, kinds: 3 } });
  });

  it('says that a wrong client secret is one', async () =>
    expect(await verifyProblem(document.id, others.rowbarn.url, { ...ROWBARN, clientSecret: 'other' })).toMatchObject({
      refused: true,
    }));

  it('gets one new token for however many deliveries, when the old one is over', async () => {
    await operator.trailWhen(await visit(newAddress()), 'delivered');
    await others.rowbarn.change<RowbarnState>(() => ({ grants: [] }));
    const ids = await Promise.all(Array.from({ length: 8 }, () => visit(newAddress())));
    await Promise.all(ids.map((id) => operator.trailWhen(id, 'delivered')));
    expect(await accessTokens()).toHaveLength(1);
  });

  it('holds when the application is not let in any more, and goes on with a new secret', async () => {
    await others.rowbarn.change<RowbarnState>(({ apps }) => ({
      grants: [],
      apps: apps.map((app) => ({ ...app, secret: 'a-new-client-secret' })),
    }));
    const id = await visit(newAddress());
    expect(only(await operator.trailWhen(id, 'held')).cause).toBe('credentials refused');
    const { profile, name, baseUrl } = connection;
    const replaced = { profile, name, baseUrl, credentials: { ...ROWBARN, clientSecret: 'a-new-client-secret' } };
    await operator.put(`/connections/${connection.id}`, replaced);
    await operator.trailWhen(id, 'delivered');
  });
});

describe('Bellbuoy: an address that is the secret', () => {
  let connection: ConnectionView;
  beforeAll(async () => {
    connection = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {});
    await wire(bellTarget(connection.id));
  });
  const messages = async () => (await others.bellbuoy.inside<BellbuoyState>()).messages;

  it('is verified, and never shown again', () => {
    expect(connection.verify).toMatchObject({ ok: true, account: 'the front desk bell' });
    expect(JSON.stringify(connection)).not.toContain('hook-for-tests');
  });

  it('keeps its address when only the name is changed', async () => {
    const { profile, baseUrl } = connection;
    await operator.put(`/connections/${connection.id}`, { profile, name: 'Front desk', baseUrl, credentials: {} });
    expect((await operator.verify(connection.id)).verify?.ok).toBe(true);
  });

  it('says that a wrong address is one', async () =>
    expect(await verifyProblem('bellbuoy', `${others.bellbuoy.url}/ring/other`, {})).toMatchObject({
      about: 'baseUrl',
      refused: true,
    }));

  it('gets plain text with the answers in it', async () => {
    const trail = await operator.trailWhen(await visit(newAddress(), { school: 'Reservoir Road School' }), 'delivered');
    expect((await messages()).at(-1)?.text).toContain('Reservoir Road School would like to come, with 24 pupils.');
    expect(only(trail).attempts[0]?.outcome).toBe('accepted there; it cannot be read back');
    // Nobody looked, so it is not said to be delivered, neither of it nor in a list.
    expect([deliveryWord(only(trail)), progressWord(trail)]).toEqual(['accepted', 'accepted']);
    const { rows } = await operator.submissions(`text=${encodeURIComponent(only(trail).email)}`);
    expect(rows.map(progressWord)).toEqual(['accepted']);
    expect(JSON.stringify(trail)).not.toContain('hook-for-tests');
  });

  it('is not rung twice when nobody knows whether it rang: a person decides', async () => {
    const before = (await messages()).length;
    await others.bellbuoy.faults({ next: 1, kind: 'drop' });
    const held = only(await operator.trailWhen(await visit(newAddress()), 'held'));
    expect(held).toMatchObject({ cause: 'unclear', attempts: [{ number: 1 }] });
    expect((await messages()).length - before).toBeLessThanOrEqual(1);
    await operator.post(`/deliveries/${held.id}/arrived`);
    const settled = only(await operator.trailWhen(held.submissionId, 'delivered'));
    expect([settled.provedBy, deliveryWord(settled)]).toEqual(['person', 'delivered']);
  });

  it('is left alone for as long as it asks', async () => {
    await others.bellbuoy.faults({ next: 1, kind: 'status', status: 429 });
    const { attempts } = only(await operator.trailWhen(await visit(newAddress()), 'delivered'));
    const [first, second] = attempts.map(({ startedAt }) => Date.parse(startedAt));
    expect((second ?? 0) - (first ?? 0)).toBeGreaterThanOrEqual(1000);
  });
});

describe('values of other types', () => {
  it('are entered on the hosted page, shown again rightly, and arrive typed', async () => {
    const field = (key: string, type: SourceField['type'], more: Partial<SourceField> = {}) =>
      sourceField(key, type, { label: key, ...more });
    const document = {
      ...schoolForm(),
      minimumSeconds: 0,
      fields: [
        field('email', 'email', { required: true, keepAs: 'email' }),
        field('who', 'person name', { required: true, keepAs: 'full_name' }),
        field('day', 'date', { keepAs: 'visit_day' }),
        field('heads', 'number'),
        field('call', 'phone', { keepAs: 'phone' }),
        field('home', 'postal address'),
        field('land', 'country'),
        field('budget', 'money'),
        field('more', 'long text'),
      ],
    };
    const form = await operator.form('Every type', document);
    const connection = await operator.connectTo('capstan', others.capstan.url, CAPSTAN, 'Typed');
    const line = (to: string, source: string) =>
      plainLine({
        id: `l-${to}`,
        to,
        from: { kind: 'field' as const, field: source },
      });
    const target: Target = {
      ...enquiryTarget(connection.id),
      lines: [
        line('mail', 'email'),
        plainLine({ id: 'l-subject', to: 'subject', from: { kind: 'text', text: '{who}: {home}, {budget}' } }),
        line('heads', 'heads'),
        plainLine({ id: 'l-note', to: 'note', from: { kind: 'text', text: '{day} {land} {call} {more}' } }),
      ],
    };
    const { consent } = schoolRoute(form.id, connection.id);
    await operator.route('Every type', {
      format: ROUTE_FORMAT,
      sourceIds: [form.id],
      targets: [target],
      consent,
      mails: [],
      accepted: {},
    });
    const email = newAddress();
    const typed = {
      email,
      'who.given': 'Mara',
      'who.family': 'Quill',
      day: '2026-02-30',
      heads: '24',
      call: '+44 1632 960001',
      'home.street': '1 Ridge Road',
      'home.postcode': 'PR1 2HL',
      'home.city': 'Pellam',
      'home.region': '',
      'home.country': 'GB',
      land: 'FR',
      budget: '12.50 EUR',
      more: 'one\r\ntwo',
    };
    const again = await (await submitForm(world, form, typed)).text();
    expect(again).toContain('There is no such day as 2026-02-30');
    expect(again).toMatch(/name="who\.family"\s+value="Quill"/);
    expect(again).toMatch(/name="home\.country"[^]*<option value="GB" selected/);
    expect(again).toMatch(/<textarea[^>]*name="more"[^>]*>one\r?\ntwo<\/textarea>/);
    expect((await submitForm(world, form, { ...typed, day: '2026-05-31' })).status).toBe(303);
    const [row] = await eventually(
      async () => (await operator.submissions(`text=${email}`)).rows,
      (rows) => rows[0]?.progress === 'delivered',
    );
    expect((await operator.trail(row?.id ?? '')).values).toMatchObject({
      who: { given: 'Mara', family: 'Quill' },
      heads: 24,
      call: '+441632960001',
      budget: { amount: '12.50', currency: 'EUR' },
    });
    const record = JSON.stringify(await others.capstan.inside());
    expect(record).toContain('Mara Quill: 1 Ridge Road, PR1 2HL Pellam, United Kingdom');
    expect(record).toContain('2026-05-31 FR +441632960001 one');
  });

  it('a sample is read as its fields hold it, and what is none is named', async () => {
    const [route] = await operator.get<RouteView[]>('/routes');
    const rehearse = (values: object) => operator.send('POST', `/routes/${route?.id ?? ''}/rehearsal`, { values });
    const wrong = await rehearse({ email: 7, first: ['x'] });
    expect([wrong.status, (await wrong.json()) as object]).toMatchObject([
      422,
      { errors: [{ pointer: '/values/first' }, { pointer: '/values/email' }] },
    ]);
    expect((await rehearse({ email: 'mara@hill.example', unknown: { a: 1 } })).status).toBe(200);
    const visit = { page: { a: 1 }, campaign: 'comets' };
    const odd = await operator.send('POST', `/routes/${route?.id ?? ''}/rehearsal`, { values: {}, visit });
    expect(odd.status).toBe(200);
  });
});

describe('kinds that need code', () => {
  it('mail to a colleague arrives with its subject and text', async () => {
    const smtp = world.env.SMTP_URL ?? '';
    const connection = await operator.connectTo('mail', smtp, {});
    expect(connection.verify?.ok).toBe(true);
    await wire(noticeTarget(connection.id));
    await operator.trailWhen(await visit(newAddress(), { school: 'Hilltop School' }), 'delivered');
    const [letter] = (await world.letters('front-desk@pellam-ridge.example')).filter(({ subject }) =>
      subject.includes('Hilltop'),
    );
    expect(letter).toMatchObject({ subject: 'School visit: Hilltop School' });
    expect(letter?.text).toContain('Mara Quill of Hilltop School asks for a visit with 24 pupils.');
    expect(letter?.headers['reply-to']).toMatch(/@hill\.example/);
  });

  it('telling a colleague and answering the visitor are two things', async () => {
    const smtp = world.env.SMTP_URL ?? '';
    const answer = await operator.connectTo('mail-to-visitor', smtp, {});
    const words = (to: string, text: string) =>
      plainLine({
        id: `l-${to}`,
        to,
        from: { kind: 'text' as const, text },
      });
    const target = (from: string): Target => ({
      ...noticeTarget(answer.id),
      lines: [words('from', from), words('subject', 'Your visit'), words('text', 'Hello {first}, we will write.')],
    });
    await expect(wire(target('{email}'))).rejects.toThrow(/From is an address or word of your own/);
    await wire(target('front-desk@pellam-ridge.example'));
    const email = newAddress();
    await operator.trailWhen(await visit(email), 'delivered');
    expect(await world.letters(email)).toMatchObject([{ subject: 'Your visit', text: 'Hello Mara, we will write.\n' }]);
  });

  it('says what is wrong with a mail server', async () => {
    expect(await verifyProblem('mail', 'mail.example.org', {})).toMatchObject({
      about: 'baseUrl',
      nextStep: expect.stringContaining('smtps://mail.example.org') as string,
    });
    expect(await verifyProblem('mail', 'smtp://127.0.0.1:9', {})).toMatchObject({
      problem: expect.stringContaining('could not be used') as string,
    });
  });

  it('a CSV file has its heading once and a row for each', async () => {
    const connection = await operator.connectTo('csv-file', 'visits.csv', {});
    await wire({
      ...bellTarget(connection.id),
      lines: [
        plainLine({ id: 'l-Email', to: 'Email', from: { kind: 'field', field: 'email' } }),
        plainLine({ id: 'l-Said', to: 'Said', from: { kind: 'text', text: '"{school}", {pupils}' } }),
        plainLine({ id: 'l-Sum', to: 'Sum', from: { kind: 'text', text: '=1+{pupils}' } }),
        plainLine({ id: 'l-Call', to: 'Call', from: { kind: 'text', text: '+44 1632 960001' } }),
      ],
    });
    const [one, two] = [newAddress(), newAddress()];
    for (const email of [one, two]) await operator.trailWhen(await visit(email), 'delivered');
    const response = await operator.send('GET', `/connections/${connection.id}/file`);
    const lines = (await response.text()).trim().split('\n');
    expect(response.headers.get('content-type')).toContain('text/csv');
    expect(lines).toHaveLength(3);
    expect(lines[0]).toBe('Email,Said,Sum,Call,delivery');
    expect(lines[1]).toMatch(new RegExp(`^${one},"""Lantern Hill School"", 24",'=1[+]24,[+]44 1632 960001,`));
    // Nobody else at the machine can read what visitors handed over.
    expect((await stat(path.join(world.env.IWASHI_DROPS ?? '', 'visits.csv'))).mode & 0o077).toBe(0);
    expect(await verifyProblem('csv-file', '../outside.csv', {})).toMatchObject({ about: 'baseUrl' });
  });
});

describe('a connection in use', () => {
  it('can be paused: what comes waits in order, and goes out afterwards', async () => {
    const connection = await operator.connect(world.ternPost, TERN_KEY);
    const bell = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {});
    const paused: Target = {
      ...bellTarget(connection.id),
      id: 'paused',
      duplicates: 'update',
      lines: [
        plainLine({ id: 'l-email', to: 'email', from: { kind: 'field', field: 'email' } }),
        plainLine({ id: 'l-given', to: 'given', from: { kind: 'field', field: 'first' } }),
      ],
    };
    await wire(paused, bellTarget(bell.id));
    await operator.post(`/connections/${connection.id}/pause`);
    const id = await visit(newAddress());
    const to = (trail: TrailView, { id: connectionId }: ConnectionView) =>
      trail.deliveries.find((delivery) => delivery.connectionId === connectionId);
    // Workers have gone round: what came later went to the other connection.
    const later = await visit(newAddress());
    await eventually(
      () => operator.trail(later),
      (trail) => to(trail, bell)?.state === 'delivered',
    );
    for (const one of [id, later])
      expect(to(await operator.trail(one), connection)).toMatchObject({ state: 'queued', attempts: [] });
    expect((await operator.connection(connection.id)).waiting).toBe(2);
    await operator.post(`/connections/${connection.id}/resume`);
    await operator.trailWhen(id, 'delivered');

    expect((await operator.send('DELETE', `/connections/${connection.id}`)).status).toBe(409);
    expect((await operator.send('DELETE', `/connections/${connection.id}?anyway=true`)).status).toBe(204);
  });
});

describe('what is held can be mended as a whole', () => {
  const bulk = (input: object) => operator.post<BulkView>('/deliveries/held', input);
  it('by a value that is set for all, by retrying, by dropping', async () => {
    const connection = await operator.connectTo('capstan', others.capstan.url, CAPSTAN, 'Capstan again');
    await wire(enquiryTarget(connection.id));
    const requireNote = (must: boolean) =>
      others.capstan.change<CapstanState>(({ kinds }) => ({
        kinds: kinds.map((kind) => ({
          ...kind,
          columns: kind.columns.map((column) => (column.code === 'wished_for' ? { ...column, must } : column)),
        })),
      }));
    await requireNote(true);
    const ids = await Promise.all(Array.from({ length: 5 }, () => visit(newAddress())));
    await Promise.all(ids.map((id) => operator.trailWhen(id, 'held')));
    const groups = await operator.get<HeldGroupView[]>('/deliveries/held');
    const own = groups.find(({ connectionId }) => connectionId === connection.id);
    expect(own).toMatchObject({ count: 5, cause: 'required field missing', detail: 'Wished-for day must be filled.' });

    const about = { cause: 'required field missing', connectionId: connection.id };
    expect((await operator.send('POST', '/deliveries/held', { ...about, act: 'drop', reason: '' })).status).toBe(422);
    await operator.post(`/deliveries/${only(await operator.trail(ids[0] ?? '')).id}/drop`, { reason: 'only a trial' });
    const refused = await bulk({ ...about, act: 'set a value', field: 'wished_for', value: 'in May' });
    expect([refused.done, new Set(refused.stayed.map(({ why }) => why))]).toEqual([
      0,
      new Set(['Wished-for day takes a date, but "in May" is not a date like 2026-05-31.']),
    ]);
    expect((await bulk({ ...about, act: 'set a value', field: 'colour', value: 'red' })).stayed[0]?.why).toBe(
      'Such a record has no such field there, as last fetched.',
    );
    expect(await bulk({ ...about, act: 'set a value', field: 'wished_for', value: '2026-05-31' })).toEqual({
      done: 4,
      stayed: [],
      next: null,
    });
    await Promise.all(ids.slice(1).map((id) => operator.trailWhen(id, 'delivered')));
    const { records } = await others.capstan.inside<CapstanState>();
    expect(records.filter(({ cells }) => cells.wished_for === '2026-05-31')).toHaveLength(4);

    const more = await Promise.all(Array.from({ length: 2 }, () => visit(newAddress())));
    await Promise.all(more.map((id) => operator.trailWhen(id, 'held')));
    await operator.verify(connection.id);
    expect((await bulk({ ...about, act: 'retry under the present route' })).stayed[0]?.why).toContain('held again');
    await requireNote(false);
    await operator.verify(connection.id);
    expect((await bulk({ ...about, act: 'retry' })).done).toBe(2);
    await Promise.all(more.map((id) => operator.trailWhen(id, 'delivered')));
  });
});
