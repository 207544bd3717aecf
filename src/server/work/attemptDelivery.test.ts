import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { intentOf } from '../../../test/world/intents.ts';
import type { Fault, HeldPerson } from '../../core/delivery/index.ts';
import type { Intent } from '../../core/plan/index.ts';
import type { Connector, PersonChange, Reply } from '../connectors/connector.ts';
import type { DeliveryRecord } from '../store/deliveries.ts';
import { ALREADY_SO, attemptDelivery, type AttemptOutcome } from '../connecting/attemptDelivery.ts';
import { nextState } from './nextState.ts';

/** What may happen to one request. The worker may vanish too, before the service has it or after. */
const HAPPENINGS = ['well', 'lost on the way', 'answer lost', 'out of order', 'dies before', 'dies after'] as const;
type Happening = (typeof HAPPENINGS)[number];

class Death extends Error {}

const MANNERS = {
  'makes or changes in one': { findsFirst: false, adds: false, makesTwice: false, canFind: true },
  'makes or changes in one, and proves by its answer': {
    ...{ findsFirst: false, adds: false, makesTwice: false, canFind: true },
    answersProve: true,
  },
  'makes and changes apart': { findsFirst: true, adds: false, makesTwice: true, canFind: true },
  'adds, and can be asked': { findsFirst: false, adds: true, makesTwice: false, canFind: true },
  'adds, and cannot be asked': { findsFirst: false, adds: true, makesTwice: false, canFind: false },
};
type Manner = keyof typeof MANNERS;
const CAN_BE_ASKED: Manner[] = [
  'makes or changes in one',
  'makes or changes in one, and proves by its answer',
  'makes and changes apart',
  'adds, and can be asked',
];

const HOUR = 3_600_000;

/** A service as far as deliveries see it, with the happenings that await its next requests. */
class Service {
  readonly records: HeldPerson[] = [];
  now = HOUR * 24;
  requests = 0;
  readonly #keys = new Set<string>();

  constructor(
    readonly manner: Manner,
    readonly fate: Happening[],
    /** How long it takes until a new record is found. */
    readonly showsAfterMs = 0,
  ) {}

  connector(): Connector {
    const { findsFirst, adds, makesTwice, canFind } = MANNERS[this.manner];
    const own: Partial<Connector> = {
      answersProve: this.#answersProve,
      findsFirst,
      adds,
      canLookFor: () => canFind,
      replaces: false,
      makesTwice,
      shownAfterMs: this.showsAfterMs,
      find: ({ email }) => this.#request(() => this.#shown(email)),
      write: (change, before, key) => this.#request(() => this.#write(change, before, key)),
      // Only the one list is put in by a request of its own.
      place: (change, held) =>
        held?.lists.includes(change.places[0]?.list ?? '') === true
          ? Promise.resolve({ ok: true, value: { moved: false } })
          : this.#request(() => this.#place(change)),
    };
    return own as Connector;
  }

  get #answersProve(): boolean {
    return 'answersProve' in MANNERS[this.manner];
  }

  #shown(email: string): HeldPerson | null {
    const isShown = ({ madeAt }: HeldPerson) => (madeAt ?? 0) + this.showsAfterMs <= this.now;
    return this.records.findLast((record) => record.email === email && isShown(record)) ?? null;
  }

  #request<T>(act: () => T): Promise<Reply<T>> {
    return new Promise((resolve) => resolve(this.#answer(act)));
  }

  #answer<T>(act: () => T): Reply<T> {
    this.requests += 1;
    this.now += 1000;
    const happening = this.fate.shift() ?? 'well';
    const fault = (cause: Fault['cause']): Reply<T> => ({ ok: false, fault: { cause, said: '', waitMs: null } });
    if (happening === 'dies before') throw new Death();
    if (happening === 'lost on the way') return fault('time-out');
    if (happening === 'out of order') return fault('unavailable');
    const value = structuredClone(act());
    if (happening === 'dies after') throw new Death();
    return happening === 'answer lost' ? fault('time-out') : { ok: true, value };
  }

  #write(change: PersonChange, before: HeldPerson | null, key: string): HeldPerson {
    const record = this.#change(change, before, key);
    // Such a service takes the lists by the same request.
    if (this.#answersProve) record.lists = [...new Set([...record.lists, ...change.places.map(({ list }) => list)])];
    return record;
  }

  #change(change: PersonChange, before: HeldPerson | null, key: string): HeldPerson {
    const { adds, findsFirst } = MANNERS[this.manner];
    const known = this.records.find(({ id }) => (findsFirst ? id === before?.id : !adds && id === change.email));
    const isRepeat = this.#keys.has(key);
    this.#keys.add(key);
    if (known) {
      if (!isRepeat || findsFirst) Object.assign(known.fields, change.fields);
      return known;
    }
    const record: HeldPerson = {
      id: adds || findsFirst ? `R${this.records.length}` : change.email,
      email: change.email,
      state: '',
      standing: null,
      madeAt: this.now,
      fields: { ...change.fields },
      lists: [],
      groups: [],
      tags: [],
    };
    this.records.push(record);
    return record;
  }

  #place({ email, places }: PersonChange): { moved: boolean } {
    const list = places[0]?.list ?? '';
    const record = this.records.findLast((candidate) => candidate.email === email);
    const moved = record !== undefined && !record.lists.includes(list);
    if (moved) record.lists.push(list);
    return { moved };
  }
}

const EMAIL = 'mara@hill.example';
const catalogue = catalogueOf({
  lists: [{ id: 'L', name: 'Sky letter', groups: [] }],
  fields: [
    { key: 'mail', label: 'Email', type: 'email', required: true, choices: [], maxLength: null },
    { key: 'given', label: 'First name', type: 'text', required: false, choices: [], maxLength: null },
    { key: 'town', label: 'Town', type: 'text', required: false, choices: [], maxLength: null },
  ],
});
const intent = (more: Partial<Intent> = {}) =>
  intentOf(EMAIL, {
    fields: { mail: EMAIL, given: 'Mara', town: 'Pellam' },
    places: [{ list: 'L', group: '' }],
    ...more,
  });

/** Tries a delivery until it ends, as workers would: with what each try left behind, and as nobody knows what a dead one did. */
async function deliver(service: Service, meant: Intent): Promise<{ state: string; cause: string | null }> {
  const row = { id: 'D', intent: meant, state: 'sending', cause: null, tries: 1, begunAt: null, readBack: null };
  let delivery = row as unknown as DeliveryRecord;
  let takenOver = false;
  for (; delivery.tries < 12; delivery = { ...delivery, state: 'sending', tries: delivery.tries + 1 }) {
    const startedAt = (service.now += 1000);
    const unclear = takenOver || ['time-out', 'answer unreadable', 'not seen yet'].includes(delivery.cause ?? '');
    const begin = () => {
      delivery = { ...delivery, begunAt: service.now };
      return Promise.resolve(true);
    };
    let ending: AttemptOutcome;
    try {
      ending = await attemptDelivery(service.connector(), delivery, catalogue, null, {
        ...{ unclear, now: startedAt, begin, trustsAnswers: true },
      });
    } catch (error) {
      if (!(error instanceof Death)) throw error;
      takenOver = true;
      continue;
    }
    takenOver = false;
    const { end } = nextState({ delivery, ending, startedAt, exchanges: [] }, service.now, 0.5);
    if (end.state !== 'retrying') return end;
    delivery = { ...delivery, ...end };
    service.now = Math.max(service.now, end.dueAt);
  }
  return { state: 'never ended', cause: null };
}

/** Every row of so many happenings. */
function* rows(length: number): Generator<Happening[]> {
  if (length === 0) yield [];
  else for (const rest of rows(length - 1)) for (const one of HAPPENINGS) yield [one, ...rest];
}

const ours = (service: Service) => service.records.filter(({ fields }) => fields.town === 'Pellam');

const ONCE = JSON.stringify(['delivered', [[EMAIL, { mail: EMAIL, given: 'Mara', town: 'Pellam' }, ['L']]]]);

describe('whatever happens to the first five requests, a person arrives once', () => {
  it.each<Manner>(CAN_BE_ASKED)(
    'at a service that %s',
    async (manner) => {
      for (const fate of rows(5)) {
        const service = new Service(manner, [...fate]);
        const { state } = await deliver(service, intent({ duplicates: MANNERS[manner].adds ? 'add' : 'update' }));
        const there = service.records.map(({ email, fields, lists }) => [email, fields, lists]);
        if (JSON.stringify([state, there]) !== ONCE) expect([fate, state, there]).toBe(ONCE);
      }
    },
    60_000,
  );

  it.each<Manner>(CAN_BE_ASKED)(
    'at a service that shows new records only after a while, and %s',
    async (manner) => {
      for (const fate of rows(4)) {
        const service = new Service(manner, [...fate], 30_000);
        const { state } = await deliver(service, intent({ duplicates: MANNERS[manner].adds ? 'add' : 'update' }));
        const there = service.records.map(({ email, fields, lists }) => [email, fields, lists]);
        if (JSON.stringify([state, there]) !== ONCE) expect([fate, state, there]).toBe(ONCE);
      }
    },
    60_000,
  );

  it('and is held, not sent again, at one that took it and never shows it', async () => {
    const service = new Service('makes and changes apart', [], 1000 * HOUR);
    const connector = service.connector();
    const never = { ...connector, shownAfterMs: 1000 };
    service.connector = () => never;
    expect(await deliver(service, intent())).toMatchObject({ state: 'held', cause: 'differs after sending' });
    expect(service.records).toHaveLength(1);
  });

  it('beside what was added there for an earlier submission', async () => {
    for (const fate of rows(4)) {
      const service = new Service('adds, and can be asked', []);
      await deliver(service, intent());
      service.now += HOUR;
      service.fate.push(...fate);
      const { state } = await deliver(service, intent());
      if (state !== 'delivered' || service.records.length !== 2)
        expect([fate, state, service.records.length]).toBe('delivered, the second beside the first');
    }
  });

  it('at one that cannot be asked, or a person is asked to look; never twice', async () => {
    const ends = new Map<string, number>();
    for (const fate of rows(4)) {
      const service = new Service('adds, and cannot be asked', [...fate]);
      const { state, cause } = await deliver(service, intent({ places: [] }));
      const end = `${state} ${cause ?? ''}`.trim();
      ends.set(end, (ends.get(end) ?? 0) + 1);
      if (service.records.length > 1 || (state === 'delivered' && service.records.length !== 1))
        expect([fate, state, service.records.length]).toBe('once, or not at all and held');
    }
    expect([...ends.keys()].sort()).toEqual(['delivered', 'held unclear']);
  });
});

describe('who is there already', () => {
  const there = (manner: Manner, fate: Happening[] = []) => {
    const service = new Service(manner, fate);
    service.records.push({
      id: manner === 'makes and changes apart' ? 'R0' : EMAIL,
      email: EMAIL,
      state: '',
      standing: null,
      madeAt: HOUR,
      fields: { mail: EMAIL, given: 'Mary', town: '' },
      lists: [],
      groups: [],
      tags: [],
    });
    return service;
  };
  const apart: Manner[] = CAN_BE_ASKED.slice(0, 3);

  it.each(apart)('is updated: %s', async (manner) => {
    for (const fate of rows(3)) {
      const service = there(manner, [...fate]);
      expect((await deliver(service, intent())).state).toBe('delivered');
      expect(ours(service)).toMatchObject([{ fields: { given: 'Mara', town: 'Pellam' }, lists: ['L'] }]);
    }
  });

  it.each(apart)('has the gaps filled, and keeps the rest: %s', async (manner) => {
    for (const fate of rows(3)) {
      const service = there(manner, [...fate]);
      expect((await deliver(service, intent({ duplicates: 'fill gaps' }))).state).toBe('delivered');
      expect(service.records).toMatchObject([{ fields: { given: 'Mary', town: 'Pellam' }, lists: ['L'] }]);
    }
  });

  it.each(apart)('is left alone: %s', async (manner) => {
    for (const fate of rows(2)) {
      const service = there(manner, [...fate]);
      expect((await deliver(service, intent({ duplicates: 'leave alone' }))).state).toBe('delivered');
      expect(service.records).toMatchObject([{ fields: { given: 'Mary', town: '' }, lists: [] }]);
    }
  });
});

describe('who is there and gets no mail', () => {
  it.each<['unsubscribed' | 'suppressed', Intent['duplicates'], string, string]>([
    ['unsubscribed', 'update', 'held', 'left there before'],
    ['unsubscribed', 'leave alone', 'held', 'left there before'],
    ['suppressed', 'update', 'dropped', 'address suppressed there'],
  ])('%s, %s: %s', async (standing, duplicates, state, cause) => {
    const service = new Service('makes or changes in one', []);
    await deliver(service, intent());
    Object.assign(service.records[0] ?? {}, { standing });
    const end = await deliver(service, intent({ duplicates }));
    expect(end).toMatchObject({ state, cause });
  });
});

it('asks no more than it has to', async () => {
  const counted = async (manner: Manner) => {
    const service = new Service(manner, []);
    await deliver(service, intent({ places: [] }));
    return service.requests;
  };
  // Write, place (which answers at once where a list is named), read back; with a look before where it has to be known.
  expect(await counted('makes or changes in one')).toBe(3);
  expect(await counted('makes and changes apart')).toBe(4);
});

describe('somebody of whom all of it is so already', () => {
  it('is looked at, and nothing is sent; what differs is', async () => {
    const service = new Service('makes and changes apart', []);
    const connector = service.connector();
    const again = (intent: Intent) =>
      attemptDelivery(connector, { id: `D${service.requests}`, intent, begunAt: null, cause: null }, catalogue, null, {
        unclear: false,
        now: service.now,
        begin: () => Promise.resolve(true),
        trustsAnswers: false,
      });
    const intent = intentOf(EMAIL, { fields: { given: 'Mara' }, places: [{ list: 'L', group: '' }] });
    await again(intent);
    const before = service.requests;
    expect(await again(intent)).toMatchObject({ kind: 'delivered', outcome: ALREADY_SO });
    expect(service.requests - before).toBe(1);
    expect(await again({ ...intent, fields: { given: 'Ada' } })).toMatchObject({ outcome: 'updated' });
    expect(service.records).toHaveLength(1);
    expect(service.records[0]?.fields).toMatchObject({ given: 'Ada' });
  });
});

describe('an answer that proves what arrived', () => {
  const tried = (service: Service, connector: Connector, trustsAnswers: boolean) =>
    attemptDelivery(connector, { id: 'D', intent: intent(), begunAt: null, cause: null }, catalogue, null, {
      unclear: false,
      now: service.now,
      begin: () => Promise.resolve(true),
      trustsAnswers,
    });
  const proving = () => new Service('makes or changes in one, and proves by its answer', []);

  it('is all that is asked for, and is said to be the proof', async () => {
    const service = proving();
    expect(await tried(service, service.connector(), true)).toMatchObject({
      kind: 'delivered',
      provedBy: 'answer',
      outcome: 'delivered, as its answer shows',
    });
    expect(service.requests).toBe(1);
  });

  it('is looked behind where answers are not trusted, in a rehearsal and now and then', async () => {
    const service = proving();
    expect(await tried(service, service.connector(), false)).toMatchObject({ provedBy: 'look', outcome: 'delivered' });
    expect(service.requests).toBe(2);
  });

  it('proves nothing where it shows something else than was meant', async () => {
    const service = proving();
    const connector = service.connector();
    const write: Connector['write'] = async (...meant) => {
      const reply = await connector.write(...meant);
      return reply.ok && reply.value ? { ok: true, value: { ...reply.value, fields: {} } } : reply;
    };
    expect(await tried(service, { ...connector, write }, true)).toMatchObject({ provedBy: 'look' });
    expect(service.requests).toBe(2);
  });

  it('proves nothing where it shows nobody: who was there before is no answer', async () => {
    const service = proving();
    const connector = service.connector();
    await tried(service, connector, true);
    const write: Connector['write'] = async (...meant) => {
      const reply = await connector.write(...meant);
      return reply.ok ? { ok: true, value: null } : reply;
    };
    const gaps = intent({ duplicates: 'fill gaps', fields: { mail: EMAIL, given: 'Ada' } });
    const again = { id: 'E', intent: gaps, begunAt: null, cause: null };
    const ending = await attemptDelivery({ ...connector, write }, again, catalogue, null, {
      unclear: true,
      now: service.now,
      begin: () => Promise.resolve(true),
      trustsAnswers: true,
    });
    expect(ending).toMatchObject({ kind: 'delivered', provedBy: 'look' });
  });

  it('that is not true is found out by looking', async () => {
    const service = proving();
    const connector = service.connector();
    const find: Connector['find'] = async (...wanted) => {
      const reply = await connector.find(...wanted);
      return reply.ok && reply.value ? { ok: true, value: { ...reply.value, lists: [] } } : reply;
    };
    expect(await tried(service, { ...connector, find }, true)).toMatchObject({ kind: 'delivered' });
    expect(await tried(service, { ...connector, find }, false)).toMatchObject({
      kind: 'failed',
      answerUntrue: true,
      fault: { cause: 'differs after sending' },
    });
  });
});
