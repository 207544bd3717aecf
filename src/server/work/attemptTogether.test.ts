import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { intentOf } from '../../../test/world/intents.ts';
import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Fault, HeldPerson } from '../../core/delivery/index.ts';
import type { Connector, PersonChange, Placed, Reply, Together } from '../connectors/connector.ts';
import type { DeliveryRecord } from '../store/deliveries.ts';
import { attemptTogether } from './attemptTogether.ts';

const refusal = (cause: Fault['cause'], said = ''): { ok: false; fault: Fault } => ({
  ok: false,
  fault: { cause, said, waitMs: null },
});
const catalogue = catalogueOf({
  lists: [{ id: 'L', name: 'Sky letter', groups: [] }],
  fields: [{ key: 'given', label: 'First name', type: 'text', required: false, choices: [], maxLength: null }],
});

const held = (email: string, fields: HeldPerson['fields'], lists = ['L']): HeldPerson => ({
  id: `id of ${email}`,
  email,
  state: '',
  standing: null,
  madeAt: null,
  fields,
  lists,
  groups: [],
  tags: [],
});

/** A service that takes several, with an outcome for each; what a test does not say goes well. */
function service(more: {
  write?: (change: PersonChange, key: string) => Reply<HeldPerson | null> | undefined;
  find?: Together['find'];
  findOne?: (email: string) => Reply<HeldPerson | null>;
  place?: (change: PersonChange) => Reply<Placed>;
  /** Whether the answer for each is what is held; then it has the person in it. */
  answersProve?: boolean;
  canFind?: boolean;
}) {
  const asked: string[] = [];
  const there = new Map<string, HeldPerson>();
  const one = ({ email }: { email: string }): Reply<HeldPerson | null> => {
    asked.push(`find ${email}`);
    return more.findOne?.(email) ?? { ok: true, value: there.get(email) ?? null };
  };
  const together: Together = {
    most: 25,
    answersProve: more.answersProve ?? false,
    write: (changes) => {
      asked.push(`write ${changes.length}`);
      return Promise.resolve(
        changes.flatMap(({ change, idempotencyKey }) => {
          if (!more.write) {
            const person = held(change.email, change.fields);
            there.set(change.email, person);
            return [{ ok: true as const, value: more.answersProve ? person : null }];
          }
          const reply = more.write(change, idempotencyKey);
          if (reply?.ok) there.set(change.email, held(change.email, change.fields));
          return reply ? [reply] : [];
        }),
      );
    },
    find:
      more.find === undefined
        ? (emails) => {
            asked.push(`find ${emails.length}`);
            return Promise.resolve({
              ok: true,
              value: new Map([...there].filter(([email]) => emails.includes(email))),
            });
          }
        : more.find,
  };
  const connector = {
    together,
    canLookFor: () => more.canFind ?? true,
    find: (wanted: { email: string }) => Promise.resolve(one(wanted)),
    place: (change: PersonChange) =>
      Promise.resolve(more.place?.(change) ?? { ok: true as const, value: { moved: false } }),
  } as unknown as Connector;
  return { connect: () => connector, asked };
}

const tries = (...emails: string[]) =>
  emails.map((email) => ({
    job: {
      delivery: {
        id: `delivery of ${email}`,
        intent: intentOf(email, { fields: { given: email.split('@')[0] ?? '' }, places: [{ list: 'L', group: '' }] }),
      } as unknown as DeliveryRecord,
      consent: null,
    },
    exchanges: [] as ExchangeView[],
  }));
const [MARA, ULRIC, WREN] = ['mara@hill.example', 'ulric@hill.example', 'wren@hill.example'];

async function outcomes(connect: () => Connector, trusted: string[] = []): Promise<string[]> {
  const trusts = ({ delivery: { id } }: { delivery: DeliveryRecord }) => trusted.some((email) => id.endsWith(email));
  const outcomes = await attemptTogether(connect, tries(MARA, ULRIC, WREN), catalogue, trusts);
  return outcomes.map((ending) => (ending.kind === 'delivered' ? ending.outcome : ending.fault.cause));
}

describe('several people by one request whose answer proves', () => {
  it('are looked at only as far as answers are not trusted', async () => {
    const { connect, asked } = service({ answersProve: true });
    expect(await outcomes(connect, [MARA, WREN])).toEqual([
      'delivered, as its answer shows',
      'delivered',
      'delivered, as its answer shows',
    ]);
    expect(asked).toEqual(['write 3', 'find 1']);
  });

  it('are looked at where a request of its own followed: the answer is older than that', async () => {
    const { connect, asked } = service({ answersProve: true, place: () => ({ ok: true, value: { moved: true } }) });
    expect(await outcomes(connect, [MARA, ULRIC, WREN])).toEqual(['delivered', 'delivered', 'delivered']);
    expect(asked).toEqual(['write 3', 'find 3']);
  });
});

describe('several people by one request', () => {
  it('are written by one, and read back by one', async () => {
    const { connect, asked } = service({});
    expect(await outcomes(connect)).toEqual(['delivered', 'delivered', 'delivered']);
    expect(asked).toEqual(['write 3', 'find 3']);
  });

  it('are read back one by one, where they cannot be asked for together', async () => {
    const { connect, asked } = service({ find: null });
    expect(await outcomes(connect)).toEqual(['delivered', 'delivered', 'delivered']);
    expect(asked).toEqual(['write 3', `find ${MARA}`, `find ${ULRIC}`, `find ${WREN}`]);
  });

  it('are taken for accepted, and for no more, where nobody can be asked for', async () => {
    const { connect, asked } = service({ find: null, canFind: false });
    expect(await outcomes(connect)).toEqual(Array(3).fill('accepted there; it cannot be read back'));
    expect(asked).toEqual(['write 3']);
    const proving = service({ find: null, canFind: false, answersProve: true });
    expect(await outcomes(proving.connect)).toEqual(Array(3).fill('delivered, as its answer shows'));
  });

  it('each have an outcome of their own, and who was refused is not asked for', async () => {
    const { connect, asked } = service({
      write: ({ email }) => (email === ULRIC ? refusal('left there before') : { ok: true, value: null }),
    });
    expect(await outcomes(connect)).toEqual(['delivered', 'left there before', 'delivered']);
    expect(asked).toEqual(['write 3', 'find 2']);
  });

  it('carry the key of each delivery', async () => {
    const keys: string[] = [];
    const { connect } = service({
      write: (_, key) => {
        keys.push(key);
        return { ok: true, value: null };
      },
    });
    await outcomes(connect);
    expect(keys).toEqual([MARA, ULRIC, WREN].map((email) => `delivery of ${email}`));
  });

  it('of whom the answer leaves one out: nobody is taken for delivered who is not there', async () => {
    const { connect } = service({ write: ({ email }) => (email === WREN ? undefined : { ok: true, value: null }) });
    expect(await outcomes(connect)).toEqual(['delivered', 'delivered', 'answer unreadable']);
  });

  it('of whom one cannot be placed', async () => {
    const { connect } = service({
      place: ({ email }) => (email === MARA ? refusal('place gone') : { ok: true, value: { moved: false } }),
    });
    expect(await outcomes(connect)).toEqual(['place gone', 'delivered', 'delivered']);
  });

  it('of whom one turns out to be held differently', async () => {
    const { connect } = service({
      find: () =>
        Promise.resolve({
          ok: true,
          value: new Map([
            [MARA, held(MARA, { given: 'mara' })],
            [ULRIC, held(ULRIC, { given: 'somebody else' })],
          ]),
        }),
    });
    expect(await outcomes(connect)).toEqual(['delivered', 'differs after sending', 'differs after sending']);
  });

  it('fail alike when they cannot be read back', async () => {
    const { connect } = service({ find: () => Promise.resolve(refusal('unavailable')) });
    expect(await outcomes(connect)).toEqual(Array(3).fill('unavailable'));
  });

  it('are told apart when they are asked for one by one and one request fails', async () => {
    const { connect } = service({
      find: null,
      findOne: (email) =>
        email === ULRIC ? refusal('time-out') : { ok: true, value: held(email, { given: email.split('@')[0] ?? '' }) },
    });
    expect(await outcomes(connect)).toEqual(['delivered', 'time-out', 'delivered']);
  });
});
