import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PurposeView } from '../../src/contract/purposes.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { SendingPreview, SendingView } from '../../src/contract/sendings.ts';
import type { RouteDocument } from '../../src/core/plan/index.ts';
import { skyLetterForm, skyLetterRoute } from '../../src/server/demo/documents.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { SourceView } from '../../src/contract/source.ts';
import { chainOf, plainLine } from '../../src/core/mapping/index.ts';
import { targetOf } from '../world/routes.ts';
import { fields, submitForm } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { eventually } from '../world/processes.ts';
import { CAPSTAN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let others: Awaited<ReturnType<World['others']>>;
let source: SourceView;
let office: RouteView;

const ALL = { since: '2000-01-01T00:00:00Z', until: '2100-01-01T00:00:00Z' };
/** Orrin is none of those for whom the office is, and Selka has taken back what she agreed to. */
const PEOPLE = ['ada', 'mara', 'tobin', 'wren', 'orrin', 'selka'];

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  others = await world.others();
  source = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  const tern = await operator.connect(world.ternPost, TERN_KEY);
  const capstan = await operator.connectTo('capstan', others.capstan.url, CAPSTAN);
  // People come before the second route is there.
  const letter = skyLetterRoute(source.id, tern.id);
  await operator.route('Sky letter', { ...letter, consent: { ...letter.consent, confirmedBy: { by: 'nobody' } } });
  for (const name of PEOPLE) await submitForm(world, source, fields(`${name}@hill.example`, { name: `${name} Quill` }));
  await eventually(
    () => operator.deliveries('state=delivered'),
    ({ rows }) => rows.length === PEOPLE.length,
  );
  const { rows } = await operator.get<{ rows: { id: string; email: string }[] }>('/people?text=selka');
  await operator.post(`/people/${rows[0]?.id}/places`, {
    connectionId: tern.id,
    act: 'unsubscribe',
    reason: 'She wrote to us.',
  });
  office = await operator.route('To the office', toOffice(capstan.id, letter));
});
afterAll(() => world.stop());

const field = (to: string, from: string) =>
  plainLine({ id: to, to, from: { kind: 'field', field: from }, steps: chainOf() });
const toOffice = (
  connectionId: string,
  letter: RouteDocument,
  confirmedBy: 'nobody' | 'iwashi' = 'nobody',
): RouteDocument => ({
  ...letter,
  consent: { ...letter.consent, confirmedBy: { by: confirmedBy } },
  targets: [
    targetOf('office', {
      connectionId,
      kind: 'person',
      needs: { ask: 'a1', channel: 'email' },
      when: { kind: 'none', of: [{ kind: 'test', id: 'c', field: 'name', test: 'begins with', value: 'orrin' }] },
      lines: [field('mail', 'email'), field('called', 'name')],
    }),
  ],
});
const records = async () => (await others.capstan.inside<CapstanState>()).records.map(({ cells }) => cells.mail);
const sendings = (id = office.id) => operator.get<SendingView[]>(`/routes/${id}/sendings`);
const preview = (id = office.id, more = {}) =>
  operator.post<SendingPreview>(`/routes/${id}/sendings/preview`, { ...ALL, ...more });
const ended = (id = office.id) =>
  eventually(
    () => sendings(id),
    ([newest]) => newest?.state === 'done',
  );

describe('sending what is there through a new route', () => {
  it('is looked at first, and changes nothing by that', async () => {
    expect(await preview()).toEqual({
      total: 6,
      looked: 6,
      sent: 4,
      held: 0,
      asked: 0,
      waiting: 0,
      leftOut: 2,
      notChosen: 0,
    });
    expect(await records()).toEqual([]);
  });

  it('takes those only for whom a condition holds, also one of what is known of them', async () => {
    const called = { kind: 'test', id: 'c', field: 'name', test: 'begins with', value: 'mara' };
    expect(await preview(office.id, { when: called })).toMatchObject({ total: 6, sent: 1, leftOut: 0, notChosen: 5 });
    // Who left knows of no purpose any more: of the six, five have agreed.
    const [purpose] = await operator.get<PurposeView[]>('/purposes');
    const agreed = { kind: 'test', id: 'c', field: `@agreed ${purpose?.id} email`, test: 'is', value: 'yes' };
    const of = await preview(office.id, { when: agreed });
    expect(of).toMatchObject({ sent: 4, leftOut: 1, notChosen: 1 });
    const nonsense = { ...ALL, when: { kind: 'test', field: 'name', test: 'rhymes with' } };
    expect((await operator.send('POST', `/routes/${office.id}/sendings/preview`, nonsense)).status).toBe(422);
  });

  it('can be paused, resumed and cancelled, and one at a time is under way', async () => {
    const [slow] = await operator.post<SendingView[]>(`/routes/${office.id}/sendings`, { ...ALL, perMinute: 1 });
    if (!slow) throw new Error('nothing was started');
    await eventually(sendings, ([one]) => one?.done === 1);
    const [paused] = await operator.post<SendingView[]>(`/routes/${office.id}/sendings/${slow.id}/pause`);
    expect(paused).toMatchObject({ state: 'paused', total: 6, done: 1, sent: 1 });
    const second = await operator.send('POST', `/routes/${office.id}/sendings`, { ...ALL, perMinute: 60 });
    expect([second.status, await second.text()]).toEqual([409, expect.stringContaining('under way')]);
    await operator.post(`/routes/${office.id}/sendings/${slow.id}/resume`);
    const [cancelled] = await operator.post<SendingView[]>(`/routes/${office.id}/sendings/${slow.id}/cancel`);
    expect(cancelled).toMatchObject({ state: 'cancelled' });
    expect((await operator.send('POST', `/routes/${office.id}/sendings/${slow.id}/resume`)).status).toBe(409);
  });

  it('goes on where something was left, and sends nobody twice', async () => {
    await operator.post(`/routes/${office.id}/sendings`, { ...ALL, perMinute: 6000 });
    const [done] = await ended();
    // The first was sent by the one that was cancelled.
    expect(done).toMatchObject({ total: 6, done: 6, leftOut: 3, held: 0, asked: 0 });
    await eventually(records, (mails) => mails.length >= 4);
    expect((await records()).sort()).toEqual(['ada', 'mara', 'tobin', 'wren'].map((name) => `${name}@hill.example`));
    await operator.post(`/routes/${office.id}/sendings`, { ...ALL, perMinute: 6000 });
    expect((await ended())[0]).toMatchObject({ sent: 0, leftOut: 6 });
    expect(await records()).toHaveLength(4);
  });

  it.each([
    [{ since: ALL.until, until: ALL.since, perMinute: 1 }, 'ends before it begins'],
    [{ ...ALL, perMinute: 0 }, 'At least one a minute'],
    [{ since: 'soon', until: ALL.until, perMinute: 1 }, 'when it begins'],
    [{ since: '2000-01-01T00:00:00Z', until: '2000-01-02T00:00:00Z', perMinute: 1 }, 'Nothing was received'],
  ])('takes no %j', async (input, said) => {
    const refused = await operator.send('POST', `/routes/${office.id}/sendings`, input);
    expect([refused.status, await refused.text()]).toEqual([422, expect.stringContaining(said)]);
  });
});

describe('through a route that has people confirm', () => {
  it('each is asked once, however often it is sent', async () => {
    const { draft } = office;
    const [target] = draft.targets;
    const asking = await operator.route('To the office, confirmed', {
      ...draft,
      consent: { ...draft.consent, confirmedBy: { by: 'iwashi' } },
      targets: target ? [target] : [],
    });
    expect(await preview(asking.id)).toMatchObject({ asked: 4, leftOut: 2 });
    await operator.post(`/routes/${asking.id}/sendings`, { ...ALL, perMinute: 6000 });
    expect((await ended(asking.id))[0]).toMatchObject({ asked: 4, sent: 0 });
    for (const name of ['ada', 'mara', 'tobin', 'wren'])
      await eventually(
        () => world.letters(`${name}@hill.example`),
        (letters) => letters.length === 1,
      );
    await operator.post(`/routes/${asking.id}/sendings`, { ...ALL, perMinute: 6000 });
    expect((await ended(asking.id))[0]).toMatchObject({ asked: 0, leftOut: 6 });
    // What would go out once more would be there before one that is sent after it.
    await submitForm(world, source, fields('late@hill.example', { name: 'Late Quill' }));
    await eventually(
      () => world.letters('late@hill.example'),
      (letters) => letters.length === 1,
    );
    expect(await world.letters('ada@hill.example')).toHaveLength(1);
  });
});

describe('sending what a route holds, once it is mended', () => {
  it('plans each anew under what is live, those that were chosen only, and leaves what would be held again', async () => {
    const { draft } = office;
    const [target] = draft.targets;
    if (!target) throw new Error('the office has no target');
    // What a look-up does not know is left out, and what is required there and left out is held.
    const nobody = chainOf({ kind: 'look-up', options: { pairs: [['nobody', 'x']], unknown: 'is left out' } });
    const lines = target.lines.map((line) => (line.to === 'called' ? { ...line, steps: nobody } : line));
    const broken = { ...draft, targets: [{ ...target, id: 'broken', lines }] };
    const wired = await operator.route('To the office, broken', broken);
    await operator.post(`/routes/${wired.id}/sendings`, { ...ALL, perMinute: 6000 });
    const [sent] = await ended(wired.id);
    expect(sent).toMatchObject({ pile: 'all', when: null, held: sent?.done ? sent.done - sent.leftOut : 0 });
    const held = sent?.held ?? 0;
    expect(held).toBeGreaterThanOrEqual(4);
    expect(await preview(wired.id, { pile: 'held' })).toMatchObject({ total: held, sent: 0, held });

    await operator.put(`/routes/${wired.id}/draft`, { ...broken, targets: [{ ...target, id: 'broken' }] });
    await operator.post(`/routes/${wired.id}/publish`);
    const when = { kind: 'test', id: 'c', field: 'name', test: 'begins with', value: 'wren' };
    expect(await preview(wired.id, { pile: 'held', when })).toMatchObject({
      total: held,
      sent: 1,
      notChosen: held - 1,
    });
    await operator.post(`/routes/${wired.id}/sendings`, { ...ALL, pile: 'held', when, perMinute: 6000 });
    expect((await ended(wired.id))[0]).toMatchObject({ pile: 'held', when, sent: 1, notChosen: held - 1 });
    await operator.post(`/routes/${wired.id}/sendings`, { ...ALL, pile: 'held', perMinute: 6000 });
    expect((await ended(wired.id))[0]).toMatchObject({ total: held - 1, sent: held - 1, held: 0 });
    await eventually(
      () => operator.deliveries(`route=${wired.id}&state=held`),
      ({ rows }) => rows.length === 0,
    );
    const none = await operator.send('POST', `/routes/${wired.id}/sendings`, { ...ALL, pile: 'held', perMinute: 1 });
    expect([none.status, await none.text()]).toEqual([422, expect.stringContaining('held by this route')]);
  });
});
