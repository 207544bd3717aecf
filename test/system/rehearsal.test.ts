import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { LookView, RehearsalView, TrialView } from '../../src/contract/rehearsal.ts';
import type { RouteView } from '../../src/contract/route.ts';
import type { SourceView } from '../../src/contract/source.ts';
import type { FieldValues } from '../../src/core/values/index.ts';
import type { RouteDocument, Target } from '../../src/core/plan/index.ts';
import {
  bellTarget,
  enquiryTarget,
  schoolForm,
  schoolRoute,
  signUpsTarget,
  skyLetterForm,
  skyLetterRoute,
} from '../../src/server/demo/documents.ts';
import type { BellbuoyState } from '../../src/standins/bellbuoy/app.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import { plainLine } from '../../src/core/mapping/index.ts';
import { sourceField } from '../world/fields.ts';
import type { Operator } from '../world/operator.ts';
import { BELL, CAPSTAN, ROWBARN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
let others: Awaited<ReturnType<World['others']>>;
let school: SourceView;
let sky: SourceView;
const ids: Record<'tern' | 'capstan' | 'rowbarn' | 'bell', string> = { tern: '', capstan: '', rowbarn: '', bell: '' };

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  others = await world.others();
  school = await operator.form('School visit request', { ...schoolForm(), minimumSeconds: 0 });
  sky = await operator.form('Sky letter sign-up', { ...skyLetterForm(world.site), minimumSeconds: 0 });
  ids.tern = (await operator.connect(world.ternPost, TERN_KEY)).id;
  ids.capstan = (await operator.connectTo('capstan', others.capstan.url, CAPSTAN)).id;
  ids.rowbarn = (await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN)).id;
  await operator.grant(ids.rowbarn);
  ids.bell = (await operator.connectTo('bellbuoy', others.bellbuoy.url + BELL, {})).id;
});
afterAll(() => world.stop());
afterEach(async () => {
  await world.noFaults();
  await Promise.all([others.capstan, others.rowbarn, others.bellbuoy].map((standIn) => standIn.noFaults()));
});

const SCHOOL: FieldValues = {
  first: 'Mara',
  last: 'Quill',
  email: 'mara@hill.example',
  school: 'Lantern Hill School',
  pupils: 24,
  visits: 'first time',
};
const SKY: FieldValues = {
  name: 'Mara Quill',
  email: 'mara@hill.example',
  interests: ['Taking pictures'],
  telescope: true,
  consent: true,
  page: 'sky-letter',
};

/** A draft, not live: nobody comes through it but the test person. */
async function draft(document: RouteDocument): Promise<string> {
  const { id } = await operator.post<RouteView>('/routes', { name: 'Trial', sourceId: document.sourceIds[0] ?? '' });
  await operator.put(`/routes/${id}/draft`, await operator.withPurposes(document));
  return id;
}
const toSchool = (...targets: Target[]) => draft({ ...schoolRoute(school.id, ids.capstan), mails: [], targets });

/** Sends a test person to every target, one after another, as the interface does. */
async function rehearse(id: string, values: FieldValues, address = ''): Promise<TrialView> {
  let trial = await operator.post<TrialView>(`/routes/${id}/trials`, { values, sourceId: '', visit: {}, address });
  for (const { targetId, state } of trial.targets)
    if (state === 'waiting')
      trial = await operator.post<TrialView>(`/routes/${id}/trials/${trial.id}/targets/${targetId}`);
  return trial;
}
const proofOf = async (id: string) => (await operator.get<RouteView>(`/routes/${id}`)).proof;
const records = async () => (await others.capstan.inside<CapstanState>()).records.length;

describe('a live rehearsal', () => {
  it('at a mailing list: found there field by field, deleted again, and the route is proved', async () => {
    const before = (await world.members()).length;
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    const trial = await rehearse(id, SKY);
    expect(trial).toMatchObject({ state: 'proved', by: 'Wren' });
    const [target] = trial.targets;
    expect(target).toMatchObject({ state: 'proved', cleaned: 'removed' });
    expect(target?.rows.map(({ what, same }) => [what, same])).toEqual(
      expect.arrayContaining([
        ['Email', true],
        ['Tag', true],
        ['List', true],
      ]),
    );
    expect(JSON.stringify(trial)).not.toContain('mara@hill.example');
    expect((await world.members()).length).toBe(before);
    expect(await proofOf(id)).toMatchObject({ state: 'proved', stale: false });
  });

  it('at records, a sheet and a channel of messages: what cannot be looked at or taken back is said', async () => {
    const before = await records();
    const id = await toSchool(enquiryTarget(ids.capstan), signUpsTargetFree(), bellTarget(ids.bell));
    const { targets, state } = await rehearse(id, SCHOOL);
    expect(targets.map((one) => [one.state, one.cleaned])).toEqual([
      ['proved', 'removed'],
      ['proved', 'left there'],
      ['accepted', 'left there'],
    ]);
    expect(state).toBe('proved');
    expect(await records()).toBe(before);
    expect((await others.bellbuoy.inside<BellbuoyState>()).messages.at(-1)?.text).toContain('Lantern Hill School');
    const sheets = JSON.stringify(await others.rowbarn.inside<RowbarnState>());
    expect(sheets).toContain('iwashi-test-');
  });

  it('says which version is proved, also where the draft was tried before it went live', async () => {
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    await rehearse(id, SKY);
    expect(await proofOf(id)).toMatchObject({ state: 'proved', version: null });
    await operator.post(`/routes/${id}/publish`);
    expect(await proofOf(id)).toMatchObject({ state: 'proved', version: 1, stale: false });
    const { draft: document } = await operator.get<RouteView>(`/routes/${id}`);
    await operator.put(`/routes/${id}/draft`, {
      ...document,
      consent: { ...document.consent, expiresHours: 24 },
    });
    await operator.post(`/routes/${id}/publish`);
    expect(await proofOf(id)).toMatchObject({ stale: true, version: null });
    expect(await rehearse(id, SKY)).toMatchObject({ version: 2 });
    expect(await proofOf(id)).toMatchObject({ stale: false, version: 2 });
    await operator.post(`/routes/${id}/pause`);
  });

  it("has its mark in the operator's own address, where one is given", async () => {
    const id = await toSchool(enquiryTarget(ids.capstan));
    const { person } = await rehearse(id, SCHOOL, 'wren@ridge.example');
    expect(person.email).toMatch(/^wren\+iwashi-[0-9a-f]{8}@ridge\.example$/);
  });

  it('proves nothing any more once the route or what is offered there has changed', async () => {
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    await rehearse(id, SKY);
    const { draft: document } = await operator.get<RouteView>(`/routes/${id}`);
    const { consent } = document;
    await operator.put(`/routes/${id}/draft`, { ...document, consent: { ...consent, expiresHours: 24 } });
    expect(await proofOf(id)).toMatchObject({ stale: true });
    await operator.put(`/routes/${id}/draft`, document);
    expect(await proofOf(id)).toMatchObject({ stale: false });
    // Fetching the same again changes nothing; a new field does.
    await operator.verify(ids.tern);
    expect(await proofOf(id)).toMatchObject({ stale: false });
    await operator.post(`/connections/${ids.tern}/make`, { what: 'field', name: 'Shoe size', list: '', kind: '' });
    expect(await proofOf(id)).toMatchObject({ stale: true });
  });

  it('says that nothing would be sent, and of which target the test person is none', async () => {
    const nobody = { kind: 'test' as const, id: 'c', field: 'school', test: 'is' as const, value: 'Another school' };
    const target = enquiryTarget(ids.capstan);
    const none = await toSchool({ ...target, when: nobody });
    const refused = await operator.send('POST', `/routes/${none}/trials`, { values: SCHOOL, visit: {} });
    expect(refused.status).toBe(422);
    expect(await refused.text()).toContain('Nothing would be sent');
    const some = await toSchool({ ...target, when: nobody }, { ...bellTarget(ids.bell), id: 'bell' });
    expect((await rehearse(some, SCHOOL)).targets[0]).toMatchObject({
      state: 'left out',
      said: expect.stringContaining('Lantern Hill School') as string,
    });
  });
});

/** The sheet of sign-ups, for the school form. */
const signUpsTargetFree = (): Target => {
  const { lines, ...target } = signUpsTarget(ids.rowbarn);
  return { ...target, needs: null, lines: lines.filter(({ to }) => to === 'Email') };
};

describe('a rehearsal in the head, of who is not new', () => {
  const of = (id: string, standing: string) =>
    operator.post<RehearsalView>(`/routes/${id}/rehearsal`, { values: SKY, sourceId: '', visit: {}, standing });

  it('takes the sample for somebody known, for somebody who left, for a robot, or for whoever it is', async () => {
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    const [fresh, known, left, robot] = await Promise.all(['', 'known', 'left', 'robot'].map((one) => of(id, one)));
    expect(fresh?.plan.contact).toMatchObject({ match: 'new' });
    expect(known?.plan.contact).toMatchObject({ match: 'matched', changes: [{ from: 'Wren Kestrel' }] });
    expect(known?.plan.notes.map(({ code }) => code)).not.toContain('nobody');
    expect(Object.values(left?.knows ?? {})).toContain(true);
    expect(left?.plan.actions.map(({ kind }) => kind)).toContain('ask');
    expect([fresh?.suspicion, robot?.suspicion]).toEqual([null, 'trap filled']);
    // Nobody is made of it.
    expect((await operator.get<{ rows: object[] }>('/people?text=Kestrel')).rows).toEqual([]);
    expect((await operator.send('POST', `/routes/${id}/rehearsal`, { values: SKY, standing: 'king' })).status).toBe(
      422,
    );
  });
});

describe('a fault at a step of it', () => {
  // The look before, the writing, the look after, and the deleting, as each stand-in has them.
  it.each([
    ['writing', { method: 'PUT', path: '/v1/members' }, 'failed', 'nothing there'],
    ['looking', { method: 'POST', path: '/v1/members/find' }, 'failed', 'removed'],
    ['deleting', { method: 'DELETE', path: '/v1/members/' }, 'proved', 'left there'],
  ])('at the mailing list, while %s', async (_, where, state, cleaned) => {
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    await world.faults({ next: 1, kind: 'status', status: 500, ...where });
    const trial = await rehearse(id, SKY);
    expect(trial.targets[0]).toMatchObject({ state, cleaned });
    expect(trial.targets[0]?.said).toMatch(/\.$/);
    expect(await proofOf(id)).toMatchObject({ state: state === 'proved' ? 'proved' : 'failed' });
  });

  it.each([
    ['writing', { method: 'POST', path: '/api/records/enquiry' }, 'failed'],
    ['looking', { method: 'GET', path: '/api/records/enquiry' }, 'failed'],
    ['deleting', { method: 'DELETE', path: '/api/records/' }, 'proved'],
  ])('at the records, while %s', async (_, where, state) => {
    const id = await toSchool(enquiryTarget(ids.capstan));
    await others.capstan.faults({ next: 1, kind: 'drop', ...where });
    expect((await rehearse(id, SCHOOL)).targets[0]).toMatchObject({ state });
  });

  it('at the sheet and at the messages, while writing', async () => {
    const id = await toSchool(signUpsTargetFree(), bellTarget(ids.bell));
    await others.rowbarn.faults({ next: 1, kind: 'garbage', method: 'POST', path: '/v2/sheets' });
    await others.bellbuoy.faults({ next: 1, kind: 'status', status: 503 });
    const { targets, state } = await rehearse(id, SCHOOL);
    expect(targets.map((one) => one.state)).toEqual(['failed', 'failed']);
    expect(state).toBe('failed');
  });
});

describe('somebody who has the number that was made up for the test person', () => {
  it('is neither changed nor deleted', async () => {
    const source = await operator.form('Call back', {
      ...schoolForm(),
      minimumSeconds: 0,
      fields: [sourceField('phone', 'phone', { label: 'Telephone', required: true, keepAs: 'phone' })],
    });
    const numbers = Array.from({ length: 1000 }, (_, index) => `+441632960${String(index).padStart(3, '0')}`);
    await others.capstan.change<CapstanState>(() => ({
      records: numbers.map((telephone, index) => ({
        no: `P${index}`,
        kind: 'callback',
        cells: { telephone, note: 'A real person.' },
        segments: [],
        made: '2026-05-31T12:00:00.000Z',
        changes: 0,
      })),
    }));
    const id = await draft({
      ...schoolRoute(source.id, ids.capstan),
      sourceIds: [source.id],
      consent: { ...schoolRoute(source.id, ids.capstan).consent, asks: [], confirmedBy: { by: 'nobody' } },
      mails: [],
      targets: [
        {
          ...enquiryTarget(ids.capstan),
          kind: 'callback',
          places: [],
          lines: [plainLine({ id: 'l', to: 'telephone', from: { kind: 'field', field: 'phone' } })],
        },
      ],
    });
    const { targets } = await rehearse(id, { phone: '+441632960001' });
    expect(targets[0]).toMatchObject({
      state: 'failed',
      said: expect.stringContaining('Somebody is there already') as string,
      cleaned: 'nothing there',
    });
    const left = (await others.capstan.inside<CapstanState>()).records;
    expect(left).toHaveLength(1000);
    expect(left.every(({ cells, changes }) => cells.note === 'A real person.' && changes === 0)).toBe(true);
  });
});

describe('looking at a destination before anything is sent', () => {
  const look = async (id: string, values: FieldValues, targetId: string) =>
    operator.post<LookView>(`/routes/${id}/look`, { values, sourceId: '', visit: {}, targetId });

  it('shows what is there beside what would be, and that somebody who left would be refused', async () => {
    const id = await draft(skyLetterRoute(sky.id, ids.tern));
    const fresh = await look(id, SKY, 'letter');
    expect(fresh).toMatchObject({ problem: null, isThere: false, refusal: null });
    expect(fresh.changes).toContainEqual({ what: 'First name', before: '', after: 'Mara' });
    const [member] = await world.members();
    if (!member) throw new Error('nobody is there');
    await world.changeTernPost(({ members }) => ({
      members: members.map((one) => (one.id === member.id ? { ...one, state: 'left' as const } : one)),
    }));
    const known = await look(id, { ...SKY, email: member.email }, 'letter');
    expect(known.isThere).toBe(true);
    expect(known.refusal).toContain('left');
  });

  it('says where nobody can look', async () => {
    const id = await toSchool(bellTarget(ids.bell));
    expect(await look(id, SCHOOL, bellTarget(ids.bell).id)).toMatchObject({
      problem: 'Nobody can be looked for there.',
    });
  });
});
