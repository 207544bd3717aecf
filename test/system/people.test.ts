import { plainLine } from '../../src/core/mapping/index.ts';
import { randomBytes } from 'node:crypto';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PersonView } from '../../src/contract/people.ts';
import type { TrailView } from '../../src/contract/submissions.ts';
import type { FormDocument, PostsDocument } from '../../src/core/intake/index.ts';
import {
  merge,
  presentRecord,
  split,
  standsFor,
  type ContactKey,
  type Pointers,
} from '../../src/core/identity/index.ts';
import { ROUTE_FORMAT, type RouteDocument, type Target } from '../../src/core/plan/index.ts';
import { TRUSTS, type SourceField, type Trust } from '../../src/core/values/index.ts';
import type { Context } from '../../src/server/context.ts';
import { enquiryTarget, schoolRoute, signUpsTarget } from '../../src/server/demo/documents.ts';
import { inTransaction } from '../../src/server/store/database.ts';
import {
  changeContacts,
  findPersonRecord,
  mergeContacts,
  readKnownPerson,
  readPersonParts,
  splitContact,
} from '../../src/server/store/people/index.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import { ownContext } from '../world/context.ts';
import { formOf, postsOf, sourceField } from '../world/fields.ts';
import { submitJson } from '../world/observatory.ts';
import type { LiveSource, Operator } from '../world/operator.ts';
import { BELL, CAPSTAN, ROWBARN, World } from '../world/world.ts';

describe('somebody who gives a number instead of an address', () => {
  let world: World;
  let operator: Operator;
  let others: Awaited<ReturnType<World['others']>>;
  let source: LiveSource<PostsDocument>;
  beforeAll(async () => {
    world = await World.start();
    operator = await world.operator();
    others = await world.others();
    const at = (key: string, type: SourceField['type'], path: string, more: Partial<SourceField> = {}) =>
      sourceField(key, type, { path, ...more });
    source = await operator.source(
      'Ticket orders',
      postsOf(
        [
          at('phone', 'phone', '$.customer.phone', { required: true, keepAs: 'phone' }),
          at('email', 'email', '$.customer.email', { keepAs: 'email' }),
          at('who', 'person name', '$.customer.name', { keepAs: 'full_name' }),
          at('total', 'money', '$.total'),
          at('items', 'list of records', '$.items', { required: true }),
          at('evening', 'date', '$.evening'),
          at('heads', 'number', '$.heads'),
          at('letter', 'file', '$.letter'),
        ],
        { statement: 'By ordering you agree that we call you about your visit.' },
      ),
    );
    const capstan = await operator.connectTo('capstan', others.capstan.url, CAPSTAN, 'Capstan');
    const rowbarn = await operator.connectTo('rowbarn', others.rowbarn.url, ROWBARN, 'Rowbarn');
    await operator.grant(rowbarn.id);
    const bellbuoy = await operator.connectTo('bellbuoy', `${others.bellbuoy.url}${BELL}`, {}, 'Bellbuoy');
    const line = (to: string, field: string) =>
      plainLine({
        id: `l-${to}`,
        to,
        from: { kind: 'field' as const, field },
      });
    const text = (to: string, words: string) =>
      plainLine({
        id: `l-${to}`,
        to,
        from: { kind: 'text' as const, text: words },
      });
    const targets: Target[] = [
      {
        ...enquiryTarget(capstan.id),
        kind: 'callback',
        lines: [
          line('telephone', 'phone'),
          line('called', 'who'),
          line('heads', 'heads'),
          line('papers', 'letter'),
          text('note', '{items} on {evening}, {total}'),
        ],
      },
      { ...signUpsTarget(rowbarn.id), lines: [line('Email', 'phone'), line('Name', 'who'), line('Source', 'items')] },
      {
        ...signUpsTarget(bellbuoy.id),
        id: 'bell',
        kind: '',
        lines: [text('text', '{who}, {phone}: {items}. Papers: {letter}')],
      },
    ];
    const { consent } = schoolRoute(source.id, capstan.id);
    const document: RouteDocument = {
      format: ROUTE_FORMAT,
      sourceIds: [source.id],
      targets,
      consent,
      mails: [],
      accepted: {},
    };
    await operator.route('Ticket orders', document);
  });
  afterAll(() => world.stop());

  const order = (phone: string, name: object, more: object = {}) => ({
    customer: { phone, name, ...more },
    total: { amount: '31.50', currency: 'EUR' },
    items: [
      { name: 'Evening ticket', count: 2 },
      { name: 'Star chart', count: 1 },
    ],
    evening: '2026-05-31',
    heads: 2,
    letter: { name: 'letter.pdf', content: Buffer.from('%PDF-1.4\n').toString('base64') },
  });
  const delivered = async (json: Record<string, unknown>): Promise<TrailView> =>
    operator.trailWhen(await submitJson(source, json), 'delivered');

  it('arrives with two line items and a file at three systems, typed and right, and proved where it can be looked at', async () => {
    const trail = await delivered(order('+44 1632 960001', { given: 'Mara', family: 'Quill' }));
    expect(trail.plan?.contact).toMatchObject({ match: 'new', key: { kind: 'phone', value: '+441632960001' } });
    const byName = new Map(trail.deliveries.map((delivery) => [delivery.connectionName, delivery]));
    const { link } = trail.values.letter as { link: string };
    const { records } = await others.capstan.inside<CapstanState>();
    expect(records.at(-1)).toMatchObject({
      kind: 'callback',
      cells: {
        telephone: '+441632960001',
        called: 'Mara Quill',
        heads: '2',
        papers: `letter.pdf (9 bytes) ${link}`,
        note: 'name: Evening ticket, count: 2\nname: Star chart, count: 1 on 2026-05-31, €31.50',
      },
    });
    expect(byName.get('Capstan')?.readBack?.every(({ same }) => same)).toBe(true);
    expect(byName.get('Capstan')?.readBack?.map(({ what }) => what)).toContain('Telephone');
    expect(byName.get('Rowbarn')?.readBack?.every(({ same }) => same)).toBe(true);
    const { sheets } = await others.rowbarn.inside<RowbarnState>();
    expect(JSON.stringify(sheets)).toContain('+441632960001');
    const bell = JSON.stringify(await others.bellbuoy.inside());
    expect(bell).toContain('Mara Quill, +441632960001: name: Evening ticket, count: 2');
    expect(bell).toContain(link);
    expect((await operator.open(link)).headers.get('content-type')).toBe('application/pdf');
    expect((await fetch(link)).status).toBe(401);
  });

  it('is the same person next time, and somebody of another name at that number is not', async () => {
    const again = await delivered(
      order('+44 1632 960001', { given: 'Mara', family: 'Quill' }, { email: 'mara@hill.example' }),
    );
    expect(again.plan?.contact).toMatchObject({ match: 'matched', key: { kind: 'phone' } });
    const other = await delivered(order('+44 1632 960001', { given: 'Ulric', family: 'Quill' }));
    expect(other.plan?.contact).toMatchObject({
      match: 'new',
      possible: [{ id: again.contactId, because: 'another name' }],
    });
    expect(other.plan?.notes.map(({ code }) => code)).toContain('possibly the same');
    const mara = await operator.get<PersonView>(`/people/${again.contactId}`);
    expect(mara.keys).toMatchObject([
      { kind: 'email', value: 'mara@hill.example', recognises: true, submissionId: again.id },
      { kind: 'phone', value: '+441632960001', recognises: true },
    ]);
    expect([mara.email, mara.phone, mara.submissions.length]).toEqual(['mara@hill.example', '+441632960001', 2]);
    const ulric = await operator.get<PersonView>(`/people/${other.contactId}`);
    expect(ulric.keys).toMatchObject([{ kind: 'phone', recognises: false }]);
    expect(ulric.submissions).toHaveLength(1);
    // Found by the number as well; and by the address that was learnt on the way.
    const found = await operator.get<{ rows: { id: string }[] }>('/people?text=960001');
    expect(found.rows.map(({ id }) => id).sort()).toEqual([again.contactId, other.contactId].sort());
    const byAddress = await delivered(
      order('+44 1632 960009', { given: 'Mara', family: 'Quill' }, { email: 'mara@hill.example' }),
    );
    expect(byAddress.contactId).toBe(again.contactId);
  });

  it('is not asked to confirm by a mail that could not reach them', async () => {
    const form = await operator.form(
      'Numbers',
      formOf([sourceField('call', 'phone', { required: true, keepAs: 'phone' })], { statement: 'I agree' }),
    );
    const { consent } = schoolRoute(form.id, '');
    const route = await operator.post<{ id: string }>('/routes', { name: 'Numbers', sourceId: form.id });
    const document = {
      format: ROUTE_FORMAT,
      sourceIds: [form.id],
      targets: [],
      consent: { ...consent, confirmedBy: { by: 'iwashi' as const } },
      mails: [],
      accepted: {},
    };
    await operator.put(`/routes/${route.id}/draft`, await operator.withPurposes(document));
    const refused = (await (await operator.send('POST', `/routes/${route.id}/publish`)).json()) as {
      errors: { detail: string }[];
    };
    expect(refused.errors.map(({ detail }) => detail).join()).toContain('no address at which people could confirm');
  });

  it('is kept, whatever is written where a number is expected', async () => {
    const form = await operator.form(
      'Loose',
      formOf([
        sourceField('email', 'email', { required: true, keepAs: 'email' }),
        sourceField('call', 'text', { keepAs: 'phone' }),
      ]),
    );
    const send = async (call: string) => {
      const id = await submitJson(form, { email: 'loose@hill.example', call });
      return operator.trailWhen(id, 'nothing to send');
    };
    await send('in the evening only, please');
    const { contactId } = await send('between seven and nine, and never on Sundays');
    const person = await operator.get<PersonView>(`/people/${contactId}`);
    expect(person.phone).toBe('between seven and ni');
    expect(person.values.find(({ name }) => name === 'phone')?.value).toContain('Sundays');
    expect(person.keys.map(({ kind }) => kind)).toEqual(['email']);
  });

  it('keeps what the more trusted of several sources says of them', async () => {
    const name = { keepAs: 'town', keepRule: 'most trusted' as const };
    const fields = [
      sourceField('email', 'email', { required: true, keepAs: 'email' }),
      sourceField('town', 'text', name),
    ];
    const tills = await operator.form('Tills', formOf(fields, { trust: 'more' }));
    const guestbook = await operator.form('Guestbook', formOf(fields, { trust: 'less' }));
    const townAfter = async (source: LiveSource<FormDocument>, town: string) => {
      const id = await submitJson(source, { email: 'trusted@hill.example', town });
      const { contactId } = await operator.trailWhen(id, 'nothing to send');
      const { values, history } = await operator.get<PersonView>(`/people/${contactId}`);
      expect(history.find((one) => one.name === 'town')?.rule).toBe('most trusted');
      return values.find((one) => one.name === 'town')?.value;
    };
    expect(await townAfter(guestbook, 'Lower Pellam')).toBe('Lower Pellam');
    expect(await townAfter(tills, 'Pellam')).toBe('Pellam');
    expect(await townAfter(guestbook, 'Nowhere')).toBe('Pellam');
    expect(await townAfter(tills, 'Upper Pellam')).toBe('Upper Pellam');
  });

  it('has a history of everything that was said, with what said it', async () => {
    const first = await delivered(order('+44 1632 960005', { given: 'Wren', family: 'Hill' }));
    await delivered({ ...order('+44 1632 960005', { given: 'Wren', family: 'Hill' }, { email: 'wren@hill.example' }) });
    const person = await operator.get<PersonView>(`/people/${first.contactId}`);
    expect(person.history.map(({ name }) => name).sort()).toEqual(['email', 'full_name', 'phone']);
    expect(person.history.find(({ name }) => name === 'phone')?.submissionId).toBe(first.id);
  });
});

describe('merging and splitting in the database', () => {
  let context: Context;
  beforeAll(async () => {
    context = await ownContext();
  });
  afterAll(() => context.store.close());

  const decision = () => ({ id: context.newId(), by: 'Wren', reason: 'a test', at: Date.now() });
  let clock = 1_000;
  /** One person says something, as a plan has it. @returns the contact that it went to */
  async function say(keys: ContactKey[], name: string, trust: Trust = 'usual'): Promise<string> {
    return inTransaction(context.store, async (db) => {
      const { identified } = await readKnownPerson(db, { keys, name });
      const id = identified.sure?.id ?? context.newId();
      const ofOthers = identified.possible.map(({ by }) => by);
      const changes = name === '' ? [] : [{ name: 'full_name', to: name, rule: 'most trusted' as const, trust }];
      const change = { id, isNew: !identified.sure, keys, ofOthers, changes, submissionId: context.newId() };
      await changeContacts(db, [change], context.newId, (clock += 1));
      return id;
    });
  }
  const email = (name: string): ContactKey => ({ kind: 'email', value: `${name}@hill.example` });
  const stateOf = async (id: string) => {
    const person = await findPersonRecord(context.store.db, id);
    const { keys, values } = await readPersonParts(context.store.db, person?.id ?? '');
    return {
      person: person?.id,
      name: person?.name,
      email: person?.email,
      keys: keys.map(({ value }) => value).sort(),
      values: values.map(({ name, value }) => [name, value]),
    };
  };

  it('a merged person is both, and split off again is exactly what it was, but for what came in between', async () => {
    const tag = randomBytes(3).toString('hex');
    const a = await say([email(`a${tag}`)], 'Mara');
    const b = await say([email(`b${tag}`)], 'M. Quill');
    const before = [await stateOf(a), await stateOf(b)];
    const { db } = context.store;
    expect((await mergeContacts(db, a, b, decision())).ok).toBe(true);
    expect(await stateOf(a)).toEqual(await stateOf(b));
    expect(await stateOf(a)).toMatchObject({
      person: b,
      name: 'M. Quill',
      keys: [`a${tag}@hill.example`, `b${tag}@hill.example`],
    });
    expect((await mergeContacts(db, b, a, decision())).ok).toBe(false);
    // What comes by the first address goes to its contact, and shows in the person.
    expect(await say([email(`a${tag}`)], 'Mara Quill')).toBe(a);
    expect((await stateOf(b)).name).toBe('Mara Quill');
    expect((await splitContact(db, a, decision())).ok).toBe(true);
    expect(await stateOf(b)).toEqual(before[1]);
    expect(await stateOf(a)).toEqual({ ...before[0], name: 'Mara Quill', values: [['full_name', 'Mara Quill']] });
    expect((await splitContact(db, a, decision())).ok).toBe(false);
    const { mergings } = await readPersonParts(db, a);
    expect(mergings.map(({ kind }) => kind).sort()).toEqual(['merged', 'split']);
  });

  it('gives what the core gives, in every order', async () => {
    const step = fc.oneof(
      {
        weight: 3,
        arbitrary: fc.record({
          kind: fc.constant('say' as const),
          who: fc.nat(4),
          name: fc.constantFrom('', 'Mara', 'Ulric', 'Wren'),
          trust: fc.constantFrom(...TRUSTS),
        }),
      },
      { weight: 2, arbitrary: fc.record({ kind: fc.constant('merge' as const), from: fc.nat(4), into: fc.nat(4) }) },
      { weight: 1, arbitrary: fc.record({ kind: fc.constant('split' as const), of: fc.nat(4) }) },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 12 }), async (steps) => {
        const tag = randomBytes(5).toString('hex');
        const ids: (string | undefined)[] = [];
        const said: { contact: string; claim: Parameters<typeof presentRecord>[0][0] }[] = [];
        let pointers: Pointers = new Map();
        const { db } = context.store;
        for (const one of steps) {
          if (one.kind === 'say') {
            const id = await say([email(`${tag}-${one.who}`)], one.name, one.trust);
            expect(ids[one.who] ?? id).toBe(id);
            ids[one.who] = id;
            const claim = {
              id: String(clock).padStart(9, '0'),
              name: 'full_name',
              value: one.name,
              rule: 'most trusted' as const,
              trust: one.trust,
              at: clock,
            };
            if (one.name !== '') said.push({ contact: id, claim });
          } else if (one.kind === 'merge') {
            const [from, into] = [ids[one.from], ids[one.into]];
            if (from === undefined || into === undefined) continue;
            const expected = merge(pointers, from, into);
            expect((await mergeContacts(db, from, into, decision())).ok).toBe(expected.ok);
            if (expected.ok) pointers = expected.value;
          } else {
            const of = ids[one.of];
            if (of === undefined) continue;
            const expected = split(pointers, of);
            expect((await splitContact(db, of, decision())).ok).toBe(expected.ok);
            if (expected.ok) pointers = expected.value;
          }
        }
        for (const id of ids) {
          if (id === undefined) continue;
          const head = standsFor(pointers, id);
          const own = said.filter(({ contact }) => standsFor(pointers, contact) === head);
          const name = presentRecord(own.map(({ claim }) => claim)).get('full_name')?.value ?? '';
          expect(await stateOf(id)).toMatchObject({ person: head, name });
        }
      }),
      { numRuns: 60 },
    );
  });
});
