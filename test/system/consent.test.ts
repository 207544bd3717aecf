import { plainLine } from '../../src/core/mapping/index.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { ConnectionView } from '../../src/contract/connection.ts';
import type { PurposeView } from '../../src/contract/purposes.ts';
import type { RouteView } from '../../src/contract/route.ts';
import { faceOf, VARIANT_FIELD } from '../../src/core/forms/index.ts';
import type { FormDocument } from '../../src/core/intake/index.ts';
import type { ConsentAsk, RouteDocument, RouteMail, Target } from '../../src/core/plan/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import { formOf, sourceField } from '../world/fields.ts';
import { fields, submitJson } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { linkIn, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let connection: ConnectionView;
let source: LiveSource<FormDocument>;
let number = 0;
const newAddress = () => `reader${(number += 1)}@hill.example`;

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  connection = await operator.connect(world.ternPost, TERN_KEY);
  source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
});
afterAll(() => world.stop());

const letterTarget = (more: Partial<Target> = {}): Target => {
  const [target] = skyLetterRoute(source.id, connection.id).targets;
  if (!target) throw new Error('no target');
  return { ...target, ...more };
};
/** One route at a time, so that each test sees its own only. */
let live: { id: string } | null = null;
async function wire(change: (route: RouteDocument) => RouteDocument): Promise<string> {
  if (live) await operator.post(`/routes/${live.id}/pause`);
  live = await operator.route('Letters', change(skyLetterRoute(source.id, connection.id)));
  return live.id;
}
const publishing = async (document: RouteDocument): Promise<string> => {
  const { id } = await operator.post<{ id: string }>('/routes', { name: 'Tried', sourceId: source.id });
  await operator.put(`/routes/${id}/draft`, document);
  const answer = await operator.send('POST', `/routes/${id}/publish`);
  return answer.ok
    ? 'live'
    : ((await answer.json()) as { errors: { detail: string }[] }).errors.map((e) => e.detail).join('\n');
};
const confirmAll = async (email: string) => {
  const letters = await eventually(
    () => world.letters(email),
    (found) => found.some(({ text }) => text.includes('/confirm/')),
  );
  const letter = letters.find(({ text }) => text.includes('/confirm/'));
  await fetch(linkIn(letter), { method: 'POST' });
  return letter;
};

describe('purposes', () => {
  it('are found by the sentence of a box when a route is made, as long as they are not archived', async () => {
    const box = source.draft.fields.find(({ id }) => id === 'consent')?.label ?? '';
    const purpose = await operator.post<PurposeView>('/purposes', {
      name: 'News of the sky',
      wordings: [box],
      channels: ['email'],
    });
    const firstAsk = async () => {
      const made = await operator.post<RouteView>('/routes', { name: 'New', sourceId: source.id });
      return made.draft.consent.asks[0];
    };
    expect(await firstAsk()).toMatchObject({ tickField: 'consent', purpose: purpose.id });
    await operator.post(`/purposes/${purpose.id}/archive`);
    // A tick that asks whether somebody has a telescope gives no consent: that it is a tick says nothing.
    expect(await firstAsk()).toMatchObject({ tickField: 'consent', purpose: '' });
  });

  const draft = (more: object = {}) => ({ name: 'Night walks', wordings: ['Invite me'], channels: ['email'], ...more });

  it('have a name of their own, sentences and channels, and remember who changed them', async () => {
    const made = await operator.post<PurposeView>('/purposes', draft());
    expect(made).toMatchObject({ name: 'Night walks', wordings: ['Invite me'], archived: false, routes: [] });
    const same = await operator.send('POST', '/purposes', draft({ name: 'night walks ' }));
    expect([same.status, await same.text()]).toEqual([422, expect.stringContaining('already')]);
    expect((await operator.send('POST', '/purposes', draft({ name: 'X', channels: [] }))).status).toBe(422);
    const changed = await operator.put<PurposeView>(
      `/purposes/${made.id}`,
      draft({ wordings: ['Invite me', 'Yes, invite me'] }),
    );
    const { rows } = await operator.get<{ rows: { act: string; detail: string }[] }>(
      `/changes?kind=purpose&id=${made.id}`,
    );
    expect(rows.map(({ act }) => act)).toEqual(['edited', 'made']);
    expect(rows[0]?.detail).toBe('Agreed to by: "Yes, invite me".');
    // Whoever saw it before that may not take it back unseen.
    const stale = { 'if-match': `"${made.updatedAt}"` };
    expect((await operator.send('PUT', `/purposes/${made.id}`, draft(), stale)).status).toBe(412);
    const fresh = { 'if-match': `"${changed.updatedAt}"` };
    expect((await operator.send('PUT', `/purposes/${made.id}`, draft(), fresh)).status).toBe(200);
  });

  it('keep a route from going live that asks in words which say something else', async () => {
    const { id } = await operator.post<PurposeView>('/purposes', draft({ name: 'Shop news' }));
    const document = skyLetterRoute(source.id, connection.id);
    const route = {
      ...document,
      consent: { ...document.consent, asks: document.consent.asks.map((ask) => ({ ...ask, purpose: id })) },
    };
    expect(await publishing(route)).toContain('is no sentence by which people agree to "Shop news"');
    const [sentence = ''] = source.draft.fields.filter((field) => field.id === 'consent').map(({ label }) => label);
    await operator.put(`/purposes/${id}`, draft({ name: 'Shop news', wordings: [sentence] }));
    expect(await publishing(route)).toBe('live');
    // Asked for by a live route, it stays in use.
    const refused = await operator.send('POST', `/purposes/${id}/archive`);
    expect([refused.status, await refused.text()]).toEqual([409, expect.stringContaining('Tried asks people for it')]);
    const [asking] = (await operator.get<PurposeView[]>('/purposes')).filter((one) => one.id === id);
    const asks = asking?.routes.find(({ state }) => state === 'live');
    await operator.post(`/routes/${asks?.id ?? ''}/pause`);
    expect((await operator.post<PurposeView>(`/purposes/${id}/archive`)).archived).toBe(true);
    expect(await publishing(route)).toContain('archived');
    await operator.post(`/purposes/${id}/restore`);
  });
});

it('several consents of one form are written down by purpose and channel, and confirmed by one mail', async () => {
  const form = await operator.form(
    'Letter and talks',
    formOf([
      sourceField('email', 'email', { required: true, keepAs: 'email' }),
      sourceField('name', 'text', { required: true }),
      sourceField('letter', 'yes/no', { label: 'Send me the letter' }),
      sourceField('talks', 'yes/no', { label: 'Tell me of talks by mail and text message' }),
    ]),
  );
  const document = skyLetterRoute(form.id, connection.id);
  const ask = (id: string, purpose: string, channels: ConsentAsk['channels']): ConsentAsk => ({
    id,
    purpose,
    channels,
    tickField: id,
  });
  const lines = [
    plainLine({ id: 'l1', to: 'email', from: { kind: 'field' as const, field: 'email' } }),
    plainLine({ id: 'l2', to: 'given', from: { kind: 'field' as const, field: 'name' } }),
  ];
  const target = (id: string, list: string, needs: Target['needs']): Target => ({
    ...letterTarget(),
    id,
    places: [{ id: 'p1', list, group: '', when: null }],
    tags: [],
    lines,
    needs,
  });
  const route = await operator.route('Both', {
    ...document,
    targets: [
      target('letters', 'L-100', { ask: 'letter', channel: 'email' }),
      target('talks', 'L-300', { ask: 'talks', channel: 'email' }),
    ],
    consent: {
      ...document.consent,
      asks: [ask('letter', 'Letter', ['email']), ask('talks', 'Talks', ['email', 'sms'])],
    },
  });
  const [both, one] = [newAddress(), newAddress()];
  const id = await submitJson(form, { email: both, name: 'Mara', letter: 'yes', talks: 'yes' });
  await operator.trailWhen(id, 'waiting');
  await confirmAll(both);
  const trail = await operator.trailWhen(id, 'delivered');
  expect(trail.confirmations.map(({ purposes }) => purposes)).toEqual([['Letter', 'Talks']]);
  const person = await operator.get<PersonView>(`/people/${trail.contactId ?? ''}`);
  const states = person.consent.map(({ purpose, channel, state }) => `${purpose} ${channel}: ${state}`).sort();
  expect(states).toEqual(['Letter email: confirmed', 'Talks email: confirmed', 'Talks sms: given']);
  expect((await world.members()).find(({ email }) => email === both)?.lists).toEqual(['L-100', 'L-300']);

  const half = await submitJson(form, { email: one, name: 'Ines', letter: 'yes', talks: '' });
  await operator.trailWhen(half, 'waiting');
  await confirmAll(one);
  const only = await operator.trailWhen(half, 'delivered');
  expect((await world.members()).find(({ email }) => email === one)?.lists).toEqual(['L-100']);
  expect(only.consent.map(({ kind, purpose, channel }) => `${kind} ${purpose} ${channel}`)).toContain(
    'not given Talks sms',
  );
  await operator.post(`/routes/${route.id}/pause`);
});

describe('words by which people agree', () => {
  const withWords = (label: string): FormDocument => ({
    ...source.draft,
    fields: source.draft.fields.map((field) => (field.id === 'consent' ? { ...field, label } : field)),
  });
  const publish = (body: object) => operator.send('POST', `/sources/${source.id}/publish`, body);
  let purpose: PurposeView;

  it('do not change on a live form before somebody said what the new ones are for', async () => {
    const route = await wire((one) => one);
    const asked = (await operator.get<RouteView>(`/routes/${route}`)).draft.consent.asks[0]?.purpose;
    purpose = (await operator.get<PurposeView[]>('/purposes')).find(({ id }) => id === asked) as PurposeView;
    await operator.put(`/sources/${source.id}/draft`, withWords('Yes, add the star chart for 9 EUR.'));
    expect(await operator.get(`/sources/${source.id}/new-words`)).toEqual([
      { purpose: purpose.id, name: purpose.name, wording: 'Yes, add the star chart for 9 EUR.', routes: ['Letters'] },
    ]);
    for (const answer of [
      await publish({}),
      await operator.send('POST', `/sources/${source.id}/schedule`, { at: Date.now() + 3_600_000 }),
    ])
      expect([answer.status, await answer.text()]).toEqual([422, expect.stringContaining('star chart')]);
    const email = newAddress();
    await submitJson(source, { email, name: 'Old words', consent: 'yes' });
    await confirmAll(email);
    const words = await world.rows<{ wording: string }>(
      "SELECT wording FROM consent_events WHERE kind = 'given' ORDER BY at DESC LIMIT 1",
    );
    expect(words[0]?.wording).not.toContain('star chart');
  });

  it('go live with the word of whoever publishes them, and stay decided on while they stand there', async () => {
    const wording = 'Yes, write to me whenever the sky has something new.';
    await operator.put(`/sources/${source.id}/draft`, withWords(wording));
    expect((await publish({ agreed: [{ purpose: purpose.id, wording }] })).status).toBe(200);
    const { name, wordings, channels } = await operator
      .get<PurposeView[]>('/purposes')
      .then((all) => all.find(({ id }) => id === purpose.id) as PurposeView);
    expect(wordings).toContain(wording);
    const without = wordings.filter((one) => one !== wording);
    const refused = await operator.send('PUT', `/purposes/${purpose.id}`, { name, channels, wordings: without });
    expect([refused.status, await refused.text()]).toEqual([409, expect.stringContaining('which is live')]);
  });

  it('are written down as the variant that a visitor was shown has them', async () => {
    const wording = 'Yes, the Sky letter is for me.';
    const face = faceOf(withWords(wording));
    const variants = [
      { id: 'a', name: 'As it is', share: 1, face: null, nothing: false },
      { id: 'b', name: 'Other words', share: 99, face, nothing: false },
    ];
    await operator.put(`/sources/${source.id}/draft`, {
      ...withWords('Yes, write to me whenever the sky has something new.'),
      variants,
    });
    expect((await publish({})).status).toBe(422);
    expect((await publish({ agreed: [{ purpose: purpose.id, wording }] })).status).toBe(200);
    // What is published reaches visitors within a second.
    await eventually(
      () => fetch(source.postUrl).then((page) => page.text()),
      (page) => page.includes(wording),
    );
    const email = newAddress();
    const sent = await submitJson(source, { email, name: 'Other words', consent: 'yes', [VARIANT_FIELD]: 'b' });
    const { plan } = await eventually(
      () => operator.trail(sent),
      (trail) => trail.plan !== null,
    );
    expect(plan?.consent).toMatchObject([{ kind: 'given', wording }, { kind: 'asked' }]);
  });
});

describe('mails of a route', () => {
  const note: RouteMail = {
    id: 'desk',
    kind: 'notify',
    when: null,
    to: ['desk@pellam-ridge.example', 'shop@pellam-ridge.example'],
    after: 'now',
    subject: 'New reader: {name}',
    body: '{@answers}',
  };
  const welcome: RouteMail = {
    id: 'welcome',
    kind: 'answer',
    when: null,
    to: [],
    after: 'confirmed',
    subject: 'Welcome, {name}',
    body: 'Dear {name},\n\nyou are on the list.',
  };
  const withMails = (mails: RouteMail[]) =>
    wire((route) => ({ ...route, targets: [letterTarget({ needs: { ask: 'a1', channel: 'email' } })], mails }));

  it('tell colleagues at once, and welcome the visitor once they have confirmed, each once', async () => {
    await withMails([note, welcome]);
    const email = newAddress();
    const id = await submitJson(source, fields(email, { name: 'Nora\nVale' }));
    const told = await eventually(
      () => world.letters('desk@pellam-ridge.example'),
      (letters) => letters.some(({ text }) => text.includes(email)),
    );
    const letter = told.find(({ text }) => text.includes(email));
    expect(letter?.subject).toBe('New reader: Nora Vale');
    expect(letter?.headers['reply-to']).toBe(email);
    expect(letter?.to).toContain('shop@pellam-ridge.example');
    expect((await operator.trailWhen(id, 'waiting')).mails.map(({ state }) => state)).toContain('waiting');
    await confirmAll(email);
    const trail = await operator.trailWhen(id, 'delivered');
    expect(trail.mails.map(({ kind, state }) => [kind, state])).toEqual([
      ['notify', 'sent'],
      ['answer', 'sent'],
    ]);
    const subjects = (await world.letters(email)).map(({ subject }) => subject);
    expect(subjects.filter((subject) => subject.startsWith('Welcome'))).toEqual(['Welcome, Nora Vale']);
    // Nothing changes for them, so nobody is asked; and the same answer does not go out again within minutes.
    const again = await submitJson(source, fields(email, { name: 'Nora Vale', page: 'other-page' }));
    const second = await eventually(
      () => operator.trail(again),
      ({ plan }) => plan !== null,
    );
    expect(second.plan?.notes.map(({ code }) => code)).toContain('answered minutes ago');
  });

  it('are held where the mail server refuses them for good, and go out when a person says so', async () => {
    await withMails([{ ...note, id: 'held' }]);
    await fetch(`${world.mailbox}/faults`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ next: 2, kind: 'status', status: 550, path: '/smtp' }),
    });
    const email = newAddress();
    const id = await submitJson(source, fields(email));
    const heldMail = ({ mails }: TrailView) => mails.find(({ state }) => state === 'held');
    const held = await eventually(
      () => operator.trail(id),
      (trail) => heldMail(trail) !== undefined,
    );
    expect(held.progress).toBe('held');
    expect(heldMail(held)?.error).toContain('550');
    const mailId = heldMail(held)?.id ?? '';
    expect((await operator.send('POST', `/mails/${mailId}/drop`, { reason: '' })).status).toBe(422);
    await operator.post(`/mails/${mailId}/retry`);
    await eventually(
      () => operator.trail(id),
      ({ mails }) => mails[0]?.state === 'sent',
    );
    expect((await operator.send('POST', `/mails/${mailId}/retry`)).status).toBe(409);
    await fetch(`${world.mailbox}/faults`, { method: 'DELETE' });
  });

  it('that wait for a confirmation which never comes are dropped with it', async () => {
    await withMails([welcome]);
    const email = newAddress();
    const id = await submitJson(source, fields(email));
    await operator.trailWhen(id, 'waiting');
    await world.rows('UPDATE confirmations SET expires_at = 1 WHERE submission_id = ?', [id]);
    const trail = await operator.trailWhen(id, 'dropped');
    expect(trail.mails.map(({ state }) => state)).toEqual(['dropped']);
    expect((await world.letters(email)).some(({ subject }) => subject.startsWith('Welcome'))).toBe(false);
  });
});

describe('exactly one system confirms', () => {
  it('where the list asks people itself, the route has to know it, and what it tells us is written down', async () => {
    await fetch(`${world.ternPost}/lists/L-100/asks`, { method: 'POST' });
    connection = await operator.verify(connection.id);
    expect(connection.catalogue?.lists.find(({ id }) => id === 'L-100')?.confirms).toBe(true);
    const document = await operator.withPurposes(skyLetterRoute(source.id, connection.id));
    // By Iwashi: the list is told the proof, believes it, and asks nobody who has confirmed.
    await wire(() => document);
    const proven = newAddress();
    const first = await submitJson(source, fields(proven));
    await confirmAll(proven);
    await operator.trailWhen(first, 'delivered');
    expect((await world.members()).find((one) => one.email === proven)?.state).toBe('active');
    await operator.post(`/connections/${connection.id}/notices`);
    await wire((route) => ({
      ...route,
      consent: { ...route.consent, confirmedBy: { by: 'target', targetId: 'letter' } },
    }));
    const email = newAddress();
    const id = await submitJson(source, fields(email));
    const trail = await operator.trailWhen(id, 'delivered');
    expect(await world.letters(email)).toEqual([]);
    const member = (await world.members()).find((one) => one.email === email);
    expect(member?.state).toBe('asked');
    const consentOf = async () =>
      (await operator.get<PersonView>(`/people/${trail.contactId ?? ''}`)).consent.map(({ state }) => state);
    expect(await consentOf()).toEqual(['given']);
    await fetch(`${world.ternPost}/members/${member?.id ?? ''}/confirm`, { method: 'POST', redirect: 'manual' });
    await eventually(consentOf, ([state]) => state === 'confirmed');
    const person = await operator.get<PersonView>(`/people/${trail.contactId ?? ''}`);
    expect(person.events.at(-1)).toMatchObject({ kind: 'confirmed', wording: 'Confirmed in Tern Post.' });
    await fetch(`${world.ternPost}/lists/L-100/asks`, { method: 'POST' });
  });
});
