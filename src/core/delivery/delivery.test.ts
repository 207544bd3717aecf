import { describe, expect, it } from 'vitest';
import { answered } from '../../../test/world/answers.ts';
import { abilities, catalogueOf } from '../../../test/world/catalogue.ts';
import type { Intent } from '../plan/index.ts';
import {
  CAUSES,
  classifyAnswer,
  compareReadBack,
  DELIVERY_STATES,
  nextAttempt,
  DELIVERING,
  type Answer,
  type Cause,
  type DeliveryEvent,
  type DeliveryState,
  type ErrorRule,
  type HeldPerson,
} from './index.ts';

const rules: ErrorRule[] = [
  { status: 409, type: '/left-before', cause: 'left there before' },
  { status: 422, cause: 'required field missing' },
];

describe('the cause of an answer', () => {
  it.each<[string, Answer, Cause | null]>([
    ['success', answered(201), null],
    ['success that is no JSON', { ...answered(200), readable: false } as Answer, 'answer unreadable'],
    ['wrong key', answered(401), 'credentials refused'],
    ['missing permission', answered(403), 'not permitted'],
    ['gone', answered(404), 'place gone'],
    [
      'a rule of the profile, by type',
      answered(409, { type: 'https://x.example/problems/left-before' }),
      'left there before',
    ],
    ['the same status, another type', answered(409, { type: 'about:blank' }), 'conflict'],
    ['a rule of the profile, by status', answered(422), 'required field missing'],
    ['too often', answered(429), 'rate limited'],
    ['too large', answered(413), 'too large'],
    ['a kind of body that is not taken', answered(415), 'request not taken'],
    ['a way of asking that is not taken', answered(405), 'request not taken'],
    ['out of order', answered(503), 'unavailable'],
    ['a redirect', answered(302), 'answer unreadable'],
    ['nobody there', { kind: 'unanswered', fault: 'unreachable', code: '' }, 'unavailable'],
    ['broken off', { kind: 'unanswered', fault: 'dropped', code: '' }, 'time-out'],
    ['too slow', { kind: 'unanswered', fault: 'time-out', code: '' }, 'time-out'],
    ['private address', { kind: 'unanswered', fault: 'forbidden address', code: '' }, 'address not allowed'],
  ])('%s', (_, answer, cause) => expect(classifyAnswer(answer, { rules }, 0)?.cause ?? null).toBe(cause));

  it('keeps what the other system said, and for how long it wants to be left alone', () => {
    const fault = classifyAnswer(
      answered(
        422,
        { title: 'No.', errors: [{ pointer: '/fields/given', detail: 'is required' }] },
        { 'retry-after': '3' },
      ),
      { rules },
      0,
    );
    expect(fault).toEqual({ cause: 'required field missing', said: 'No. given: is required', waitMs: 3000 });
  });
});

describe('what follows a failed try', () => {
  const fault = (cause: Cause, waitMs: number | null = null) => ({ cause, said: '', waitMs });
  it('holds what a person has to mend, at once', () =>
    expect(nextAttempt(1, fault('credentials refused'), 0, 0.5)).toEqual({ kind: 'hold' }));
  it('waits longer each time, by chance up to a limit', () => {
    expect(nextAttempt(1, fault('unavailable'), 0, 0.999)).toEqual({ kind: 'retry', at: 999 });
    expect(nextAttempt(4, fault('unavailable'), 0, 0.5)).toEqual({ kind: 'retry', at: 4000 });
    expect(nextAttempt(15, fault('unavailable'), 0, 1)).toEqual({ kind: 'retry', at: 900_000 });
  });
  it('never comes before the time that was asked for', () =>
    expect(nextAttempt(1, fault('rate limited', 30_000), 1000, 0)).toEqual({ kind: 'retry', at: 31_000 }));
  it('drops what nobody could mend', () =>
    expect(nextAttempt(1, fault('address suppressed there'), 0, 0)).toEqual({ kind: 'drop' }));
  it('gives up in the end', () => expect(nextAttempt(16, fault('unavailable'), 0, 0)).toEqual({ kind: 'hold' }));
});

it('has a sentence and a next step for every cause', () => {
  for (const { sentence, nextStep } of Object.values(CAUSES))
    expect(`${sentence} ${nextStep}`).toMatch(/^[A-Z].+\. [A-Z].+\.$/);
});

describe('the states of a delivery', () => {
  const events: DeliveryEvent[] = [
    'confirmed',
    'claimed',
    'delivered',
    'failed for now',
    'stopped',
    'stopped while waiting',
    'given back',
    'given up',
    'replayed',
    'seen there',
    'dropped',
  ];
  const table: Record<DeliveryState, (DeliveryState | null)[]> = {
    waiting: ['queued', null, null, null, null, null, null, null, null, null, 'dropped'],
    queued: [null, 'sending', null, null, null, 'held', null, null, null, null, null],
    sending: [null, 'sending', 'delivered', 'retrying', 'held', null, 'queued', 'dropped', null, null, null],
    retrying: [null, 'sending', null, null, null, 'held', null, null, 'queued', null, 'dropped'],
    held: [null, null, null, null, null, null, null, null, 'queued', 'delivered', 'dropped'],
    delivered: Array<null>(11).fill(null),
    dropped: Array<null>(11).fill(null),
  };
  it.each(DELIVERY_STATES)('%s', (state) =>
    expect(events.map((event) => DELIVERING.after(state, event))).toEqual(table[state]),
  );
  it.each(events)('"%s" leads to one state only, wherever it applies', (event) =>
    expect(new Set(DELIVERING.before(event).map((state) => DELIVERING.after(state, event)))).toEqual(
      new Set([DELIVERING.to(event)]),
    ),
  );
});

describe('reading back', () => {
  const intent: Intent = {
    format: 6,
    ends: null,
    channel: 'email',
    rules: {},
    subject: [{ key: { kind: 'email', value: 'a@b.example' }, field: 'email' }],
    kind: '',
    fields: { email: 'a@b.example', given: 'Mara', figure: 1 },
    places: [{ list: 'L', group: '' }],
    tags: ['web'],
    leaves: [],
    tagsOff: [],
    duplicates: 'update',
    purpose: '',
    wording: '',
  };
  const catalogue = catalogueOf({
    lists: [{ id: 'L', name: 'List', groups: [] }],
    fields: [
      { key: 'email', label: 'Email', type: 'email' as const, required: true, choices: [], maxLength: null },
      { key: 'given', label: 'First name', type: 'text' as const, required: true, choices: [], maxLength: null },
    ],
  });
  const held: HeldPerson = {
    id: '1',
    madeAt: null,
    email: 'A@b.example',
    state: 'active',
    standing: 'subscribed',
    fields: { given: 'Mara', figure: 1 },
    lists: ['L'],
    groups: [],
    tags: ['web', 'old'],
  };
  const different = (found: HeldPerson | null, more: Partial<Intent> = {}, before: HeldPerson | null = null) =>
    compareReadBack({ ...intent, ...more }, catalogue, found, before)
      .filter(({ same }) => !same)
      .map(({ what }) => what);

  it('finds nothing different when all is there', () => expect(different(held)).toEqual([]));
  it('finds each part that is not', () =>
    expect(different({ ...held, fields: { given: 'Maria' }, lists: [], tags: [] })).toEqual([
      'First name',
      'figure',
      'List',
      'Tag',
    ]));
  it('takes the ways in which services write a value for the same value', () => {
    const typed = catalogueOf({
      fields: (['yes/no', 'number', 'date', 'phone', 'text'] as const).map((type) => ({
        key: type,
        label: type,
        type,
        required: false,
        choices: [],
        maxLength: null,
      })),
    });
    const meant = { 'yes/no': true, number: 7, date: '2026-05-31', phone: '+44 1632 960123', text: 'seven' };
    const found = { 'yes/no': '1', number: '7', date: '2026-05-31T00:00:00Z', phone: '+441632960123', text: 'Seven' };
    const rows = compareReadBack(
      { ...intent, places: [], tags: [], fields: meant },
      typed,
      { ...held, fields: found },
      null,
    );
    expect(rows.filter(({ same }) => !same).map(({ what }) => what)).toEqual(['text']);
  });
  it('reads yes and no in the words of the service, and no others', () => {
    const flagged = catalogueOf({
      fields: [{ key: 'wants', label: 'Wants it', type: 'yes/no', required: false, choices: [], maxLength: null }],
      can: abilities({ flags: { yes: '1', no: '2' } }),
    });
    const isSame = (meant: boolean, found: string) =>
      compareReadBack(
        { ...intent, places: [], tags: [], fields: { wants: meant } },
        flagged,
        { ...held, fields: { wants: found } },
        null,
      ).every(({ same }) => same);
    expect([isSame(true, '1'), isSame(true, '2'), isSame(false, '2'), isSame(false, '1')]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
  it('finds that nobody is there', () => expect(different(null)).toEqual(['Person']));
  it('lets filled fields stay under "fill gaps", and empty ones not', () => {
    const before = { ...held, fields: { given: 'Maria', figure: null } };
    expect(different({ ...held, fields: { given: 'Maria', figure: 1 } }, { duplicates: 'fill gaps' }, before)).toEqual(
      [],
    );
    expect(
      different({ ...held, fields: { given: 'Maria', figure: null } }, { duplicates: 'fill gaps' }, before),
    ).toEqual(['figure']);
  });
  it('expects those who are taken out to be out, and tags taken off to be off', () => {
    const leaving = {
      leaves: [
        { list: 'L', group: '' },
        { list: 'M', group: 'G' },
      ],
      tagsOff: ['old'],
    };
    expect(different(held, { ...leaving, places: [] })).toEqual(['List', 'Tag']);
    const gone = { ...held, lists: [], tags: ['web'] };
    expect(different(gone, { ...leaving, places: [] })).toEqual([]);
  });
  it('expects nothing of a person left alone', () =>
    expect(different({ ...held, fields: {}, lists: [], tags: [] }, { duplicates: 'leave alone' }, held)).toEqual([]));
});
