import { findingsOf } from '../../../test/world/preflight.ts';
import { plainLine, chainOf, READY } from '../mapping/index.ts';
import { describe, expect, it } from 'vitest';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { keysOf, type ContactKey } from '../identity/index.ts';
import type { Purpose } from '../consent/index.ts';
import type { FieldValues, SourceField } from '../values/index.ts';
import {
  addressOf,
  asksIn,
  deliveriesIn,
  mailsIn,
  planSubmission,
  ROUTE_FORMAT,
  tagsFor,
  type Catalogue,
  type KnownPerson,
  type LiveRoute,
  type Plan,
  type PlanInput,
  type RouteDocument,
  type RouteMail,
  type Target,
  type TargetTag,
  NOBODY,
} from './index.ts';

const field = (key: string, type: SourceField['type'], more: Partial<SourceField> = {}) =>
  sourceField(key, type, { required: true, ...more });
const fields = [
  field('name', 'text', { keepAs: 'full_name' }),
  field('email', 'email', { keepAs: 'email' }),
  field('consent', 'yes/no', { label: 'Yes, write to me' }),
];
const catalogue: Catalogue = catalogueOf({
  lists: [{ id: 'L', name: 'List', groups: [{ id: 'G', name: 'Group' }] }],
  tags: [],
  fields: [
    { key: 'email', label: 'Email', type: 'email', required: true, choices: [], maxLength: null },
    { key: 'given', label: 'First name', type: 'text', required: true, choices: [], maxLength: 5 },
    { key: 'note', label: 'Note', type: 'number', required: false, choices: [], maxLength: null },
  ],
});
const document: RouteDocument = {
  format: ROUTE_FORMAT,
  sourceIds: ['S'],
  targets: [
    {
      id: 'T',
      when: null,
      branch: null,
      needs: { ask: 'a1', channel: 'email' },
      connectionId: 'C',
      kind: '',
      places: [{ id: 'p', list: 'L', group: 'G', when: null }],
      tags: [{ id: 'web', tag: 'web', when: null }],
      leaves: [],
      tagsOff: [],
      lines: [
        plainLine({
          id: 'l-email',
          to: 'email',
          from: { kind: 'field', field: 'email' },
          steps: chainOf(READY.lowerCase),
        }),
        plainLine({
          id: 'l-given',
          to: 'given',
          from: { kind: 'field', field: 'name' },
          steps: chainOf(READY.firstNames),
        }),
      ],
      duplicates: 'update',
    },
  ],
  consent: {
    asks: [{ id: 'a1', purpose: 'letter', channels: ['email'], tickField: 'consent' }],
    confirmedBy: { by: 'iwashi' },
    mail: { subject: 'Please confirm', body: '{link}', button: 'Yes' },
    expiresHours: 72,
    changes: 'ask',
  },
  mails: [],
  accepted: {},
};
const purposes: Purpose[] = [
  {
    id: 'letter',
    name: 'Sky letter',
    wordings: ['Yes, write to me', 'By sending you agree'],
    channels: ['email', 'sms'],
    archived: false,
  },
];
const route: LiveRoute = { id: 'R', name: 'Route', version: 3, document };
const knownBy = (by: ContactKey, known: FieldValues): KnownPerson => ({
  ...NOBODY,
  contact: { id: 'P', address: by.kind === 'email' ? by.value : '', values: known },
  identified: { sure: { id: 'P', by }, possible: [] },
});
const byAnswer = (field: string, value: string, tag: string): TargetTag => ({
  id: `by-${value}`,
  tag,
  when: { kind: 'test', id: `is-${value}`, field, test: 'is', value },
});
const codes = ({ notes }: Plan) => notes.map(({ code }) => code);
const NOW = 1_000_000_000;
const values = { name: 'Mara Quill', email: 'Mara@Quill.example', consent: true };
/** A plan with its actions by kind. */
const plan = (more: Partial<PlanInput> = {}) => {
  const planned = planSubmission({
    fields,
    statement: '',
    trust: 'usual',
    values,
    keys: keysOf(more.fields ?? fields, more.values ?? values, 'S'),
    visit: {},
    routes: [route],
    known: NOBODY,
    catalogues: { C: catalogue },
    now: NOW,
    ...more,
  });
  return { ...planned, asks: asksIn(planned), deliveries: deliveriesIn(planned), mails: mailsIn(planned) };
};
const NOW_AT_ONCE = { kind: 'now' };
const ONCE_CONFIRMED = { kind: 'confirmed', action: 'ask R' };
const ONE_BY_EMAIL = { purpose: 'letter', channel: 'email' } as const;

describe('a new person, double opt-in', () => {
  const planned = plan();
  it('is a new contact under the normalised address', () => {
    expect(planned.contact).toMatchObject({ match: 'new', key: { kind: 'email', value: 'mara@quill.example' } });
    expect(planned.contact?.changes.map(({ name, to }) => [name, to])).toEqual([
      ['full_name', 'Mara Quill'],
      ['email', 'mara@quill.example'],
    ]);
  });
  it('gave consent in the words of the box, and is asked to confirm', () => {
    expect(planned.consent).toEqual([
      { kind: 'given', ...ONE_BY_EMAIL, wording: 'Yes, write to me' },
      { kind: 'asked', ...ONE_BY_EMAIL, wording: 'Please confirm' },
    ]);
    expect(planned.asks).toMatchObject([{ to: 'mara@quill.example', joins: null }]);
  });
  it('is delivered after that, as mapped', () => {
    expect(planned.deliveries).toMatchObject([
      {
        after: ONCE_CONFIRMED,
        routeVersion: 3,
        held: null,
        intent: {
          subject: [{ key: { value: 'mara@quill.example' }, field: 'email' }],
          fields: { given: 'Mara' },
          places: [{ list: 'L', group: 'G' }],
          tags: ['web'],
        },
      },
    ]);
  });
});

it('takes people out only of what the service takes them out of', () => {
  const leaving: LiveRoute = {
    ...route,
    document: {
      ...document,
      targets: document.targets.map((target) => ({
        ...target,
        leaves: [
          { list: 'M', group: '' },
          { list: 'M', group: 'N' },
        ],
        tagsOff: ['asked'],
      })),
    },
  };
  expect(plan({ routes: [leaving] }).deliveries[0]?.intent).toMatchObject({
    leaves: [
      { list: 'M', group: '' },
      { list: 'M', group: 'N' },
    ],
    tagsOff: ['asked'],
  });
  const can = { ...catalogue.can, leavesGroups: false, untags: false };
  expect(plan({ routes: [leaving], catalogues: { C: { ...catalogue, can } } }).deliveries[0]?.intent).toMatchObject({
    leaves: [{ list: 'M', group: '' }],
    tagsOff: [],
  });
});

it('does not ask those who confirmed before', () => {
  const planned = plan({ known: { ...NOBODY, consent: [{ kind: 'confirmed', ...ONE_BY_EMAIL, at: 5 }] } });
  expect(planned.asks).toEqual([]);
  expect(planned.deliveries[0]?.after).toEqual(NOW_AT_ONCE);
});

it('asks again when the confirmation was for another purpose', () => {
  expect(
    plan({ known: { ...NOBODY, consent: [{ kind: 'confirmed', purpose: 'shop', channel: 'email', at: 5 }] } }).asks,
  ).toHaveLength(1);
});

it('joins a confirmation that went out minutes ago, and sends anew after that', () => {
  const open = (age: number) =>
    plan({ known: { ...NOBODY, openConfirmations: [{ id: 'K', purposes: ['letter'], lastSentAt: NOW - age }] } });
  expect(open(60_000).asks[0]?.joins).toBe('K');
  expect(open(60_000).consent.map(({ kind }) => kind)).toEqual(['given']);
  expect(open(11 * 60_000).asks[0]?.joins).toBeNull();
});

it('sends one confirmation for one purpose, however many routes', () => {
  const planned = plan({ routes: [route, { ...route, id: 'R2' }] });
  expect(planned.asks).toHaveLength(1);
  expect(planned.deliveries).toHaveLength(2);
});

it('delivers at once under single opt-in, with the statement as wording', () => {
  const single = {
    ...route,
    document: {
      ...document,
      consent: {
        ...document.consent,
        asks: document.consent.asks.map((ask) => ({ ...ask, tickField: '' })),
        confirmedBy: { by: 'nobody' as const },
      },
    },
  };
  const planned = plan({ routes: [single], statement: 'By sending you agree' });
  expect(planned.deliveries[0]?.after).toEqual(NOW_AT_ONCE);
  expect(planned.consent).toEqual([{ kind: 'given', ...ONE_BY_EMAIL, wording: 'By sending you agree' }]);
});

it('recognises a person, and changes only what is new', () => {
  const known = knownBy(
    { kind: 'email', value: 'mara@quill.example' },
    { full_name: 'Mara Quill', email: 'mara@quill.example' },
  );
  const planned = plan({ known, values: { ...values, name: '' } });
  expect(planned.contact).toMatchObject({ match: 'matched', contactId: 'P', changes: [] });
});

it('holds what lacks a required value, and leaves out an optional one that does not fit', () => {
  const long = plan({ values: { ...values, name: 'Maximiliana' } });
  expect(long.deliveries[0]?.held?.message).toContain('First name');
  const withNote = structuredClone(route);
  withNote.document.targets[0]?.lines.push(
    plainLine({ id: 'l-note', to: 'note', from: { kind: 'field', field: 'name' } }),
  );
  const planned = plan({ routes: [withNote] });
  expect(planned.deliveries[0]?.held).toBeNull();
  expect(planned.deliveries[0]?.leftOut[0]).toContain('Note takes a number');
});

it('plans nothing for nobody', () => {
  const planned = planSubmission({
    fields: [],
    statement: '',
    trust: 'usual',
    values: {},
    keys: [],
    visit: {},
    routes: [route],
    known: NOBODY,
    catalogues: {},
    now: NOW,
  });
  expect(planned.contact).toBeNull();
  expect(codes(planned)).toEqual(['nobody']);
});

it('sets tags by answer, each once', () => {
  const tags = [
    { id: 'all', tag: 'web', when: null },
    byAnswer('likes', 'Moon', 'moon'),
    byAnswer('consent', 'yes', 'web'),
    byAnswer('likes', 'Sun', 'sun'),
    byAnswer('nothing', 'x', 'unsaid'),
  ];
  expect(tagsFor({ tags }, { values: { likes: ['Moon'], consent: true }, now: 0 })).toEqual(['web', 'moon']);
});

describe('preflight', () => {
  const source = formOf(fields);
  const blockers = (change: (document: RouteDocument) => void, live: typeof source | null = source) => {
    const changed = structuredClone(document);
    change(changed);
    return findingsOf({
      others: [],
      knowledge: [],
      document: changed,
      sources: [{ name: 'Form', live }],
      catalogues: { C: catalogue },
      purposes,
    })
      .filter(({ level }) => level === 'blocker')
      .map(({ part }) => part);
  };
  const ask = (changed: RouteDocument) => changed.consent.asks[0] as RouteDocument['consent']['asks'][0];
  const place = (changed: RouteDocument) => target(changed).places[0] as Target['places'][0];
  const target = (changed: RouteDocument) => changed.targets[0] as NonNullable<RouteDocument['targets'][0]>;

  it('finds nothing in the way of a complete route', () => expect(blockers(() => {})).toEqual([]));
  it.each<[string, (changed: RouteDocument) => void, string]>([
    [
      'a required field with nothing mapped',
      (changed) => (target(changed).lines = target(changed).lines.slice(0, 1)),
      'mapping',
    ],
    [
      'a field that the source lost',
      (changed) =>
        (target(changed).lines = [
          plainLine({ id: 'l-given', to: 'given', from: { kind: 'field', field: 'gone' } }),
          ...target(changed).lines.slice(0, 1),
        ]),
      'mapping',
    ],
    ['a list that is gone', (changed) => (place(changed).list = 'gone'), 'target'],
    ['a group of another list', (changed) => (place(changed).group = 'gone'), 'target'],
    [
      'a list that people leave and is gone',
      (changed) => (target(changed).leaves = [{ list: 'gone', group: '' }]),
      'target',
    ],
    [
      'a list that people are put into and taken out of',
      (changed) => (target(changed).leaves = [{ list: 'L', group: '' }]),
      'target',
    ],
    ['a tag that is set and taken off', (changed) => (target(changed).tagsOff = ['web']), 'tags'],
    ['no target', (changed) => (changed.targets = []), 'target'],
    ['a mail without a link', (changed) => (changed.consent.mail.body = 'Hello'), 'consent'],
    ['a consent without words', (changed) => (ask(changed).tickField = ''), 'consent'],
    ['a consent for nothing', (changed) => (ask(changed).purpose = ''), 'consent'],
    ['a tick box that is gone', (changed) => (ask(changed).tickField = 'gone'), 'consent'],
  ])('blocks %s', (_, change, part) => expect(blockers(change)).toContain(part));
  it('blocks a source that is not live', () => expect(blockers(() => {}, null)).toEqual(['source']));
});

describe('somebody who confirmed before', () => {
  const [meant] = plan().deliveries;
  if (!meant) throw new Error('nothing was planned');
  const known: KnownPerson = {
    ...knownBy(
      { kind: 'email', value: 'mara@quill.example' },
      { full_name: 'Mara Quill', email: 'mara@quill.example' },
    ),
    consent: [{ kind: 'confirmed', ...ONE_BY_EMAIL, at: 1 }],
    openConfirmations: [],
    sent: [{ routeId: 'R', routeVersion: 1, targetId: 'T', connectionId: 'C', arrived: true, intent: meant.intent }],
  };
  const withConsent = (consent: Partial<RouteDocument['consent']>, targets = document.targets): LiveRoute => ({
    ...route,
    document: { ...document, targets, consent: { ...document.consent, ...consent } },
  });
  const other = { ...values, name: 'Best Offers' };

  it('who says the same again is delivered at once', () => {
    const planned = plan({ known });
    expect(planned.asks).toEqual([]);
    expect(planned.deliveries).toMatchObject([{ after: NOW_AT_ONCE }]);
  });

  it('is asked before anything of theirs is changed, here or there', () => {
    const planned = plan({ known, values: other });
    expect(planned.contact?.changes).toMatchObject([
      { name: 'full_name', from: 'Mara Quill', to: 'Best Offers', when: 'after confirmation' },
    ]);
    expect(planned.asks).toMatchObject([{ to: 'mara@quill.example' }]);
    expect(planned.deliveries).toMatchObject([{ after: ONCE_CONFIRMED, intent: { fields: { given: 'Best' } } }]);
  });

  it('who chooses the same of several again is asked nothing, and of others is', () => {
    const several = catalogueOf({
      lists: catalogue.lists,
      fields: [
        ...catalogue.fields,
        { key: 'likes', label: 'Likes', type: 'several choices', required: false, choices: [], maxLength: null },
      ],
    });
    const [target] = document.targets;
    if (!target) throw new Error('no target');
    const line = plainLine({ id: 'l', to: 'likes', from: { kind: 'field' as const, field: 'likes' } });
    const routes = [withConsent({}, [{ ...target, lines: [...target.lines, line] }])];
    const sent = known.sent.map((one) => ({
      ...one,
      intent: { ...one.intent, fields: { ...one.intent.fields, likes: ['moon', 'sun'] } },
    }));
    const choosing = (likes: string[]) =>
      plan({
        fields: [...fields, field('likes', 'several choices', { options: ['moon', 'sun'] })],
        known: { ...known, sent },
        values: { ...values, likes },
        routes,
        catalogues: { C: several },
      }).deliveries.map(({ after }) => after.kind);
    expect(choosing(['moon', 'sun'])).toEqual(['now']);
    expect(choosing(['moon'])).toEqual(['confirmed']);
  });

  it('is asked before a tag is added by an answer', () => {
    const [target] = document.targets;
    if (!target) throw new Error('no target');
    const tagged = withConsent({}, [{ ...target, tags: [...target.tags, byAnswer('name', 'Mara Quill', 'moon')] }]);
    expect(plan({ known, routes: [tagged] }).deliveries).toMatchObject([{ after: ONCE_CONFIRMED }]);
  });

  it('has gaps filled without being asked', () => {
    const unnamed = { ...known, contact: known.contact && { ...known.contact, values: {} } };
    const sent = known.sent.map((one) => ({ ...one, intent: { ...one.intent, fields: {} } }));
    const planned = plan({ known: { ...unnamed, sent } });
    expect(planned.contact?.changes.map(({ when }) => when)).toEqual(['now', 'now']);
    expect(planned.deliveries).toMatchObject([{ after: NOW_AT_ONCE }]);
  });

  it('is changed at once where the route says so', () => {
    const planned = plan({ known, values: other, routes: [withConsent({ changes: 'at once' })] });
    expect(planned.contact?.changes.map(({ when }) => when)).toEqual(['now']);
    expect(planned.deliveries).toMatchObject([{ after: NOW_AT_ONCE, intent: { fields: { given: 'Best' } } }]);
  });

  it('keeps what they have where the form asks nobody to confirm', () => {
    const planned = plan({ known, values: other, routes: [withConsent({ confirmedBy: { by: 'nobody' } })] });
    expect(planned.contact?.changes.map(({ when }) => when)).toEqual(['never']);
    expect(planned.deliveries).toMatchObject([
      { after: NOW_AT_ONCE, intent: { duplicates: 'fill gaps', tags: ['web'] } },
    ]);
    expect(codes(planned)).toContain('only gaps');
  });

  it('keeps it also at a service that cannot fill gaps: what is known to be there is not sent', () => {
    const blunt = { ...catalogue, can: { ...catalogue.can, duplicates: ['update' as const] } };
    const planned = plan({
      known,
      values: other,
      routes: [withConsent({ confirmedBy: { by: 'nobody' } })],
      catalogues: { C: blunt },
    });
    expect(planned.deliveries[0]?.intent.fields).toEqual({ email: 'mara@quill.example' });
  });

  it('keeps it too where no live route takes the form', () => {
    expect(plan({ known, values: other, routes: [] }).contact?.changes.map(({ when }) => when)).toEqual(['never']);
  });
});

it('an unticked box is written down as not given, and gives nothing', () => {
  const planned = plan({ values: { ...values, consent: false } });
  expect(planned.consent).toEqual([{ kind: 'not given', ...ONE_BY_EMAIL, wording: 'Yes, write to me' }]);
  expect([planned.deliveries, planned.asks]).toEqual([[], []]);
  expect(planned.notes).toMatchObject([
    { code: 'no consent', text: expect.stringContaining('Yes, write to me') as string },
  ]);
});

it('somebody who is known by a number only is asked nothing by mail, and nothing goes to the number as if it were an address', () => {
  const number = { kind: 'phone' as const, value: '+441632960001' };
  const known = knownBy(number, {});
  const planned = plan({ known, keys: [number] });
  expect([planned.asks, planned.deliveries]).toEqual([[], []]);
  expect(codes(planned)).toEqual(['no address to confirm']);
  const single = {
    ...route,
    document: { ...document, consent: { ...document.consent, confirmedBy: { by: 'nobody' as const } } },
  };
  const [delivery] = plan({ known, keys: [number], routes: [single] }).deliveries;
  expect(delivery && addressOf(delivery.intent)).toBe('');
  expect(delivery?.intent.subject).toEqual([{ key: number, field: '' }]);
  // Who has an address is asked at that one.
  const reachable = { ...known, contact: known.contact && { ...known.contact, address: 'mara@quill.example' } };
  expect(plan({ known: reachable, keys: [number] }).asks).toMatchObject([{ to: 'mara@quill.example' }]);
});

it('the check before going live says all that is wrong with a field, not only the first', () => {
  const [target] = document.targets;
  if (!target) throw new Error('no target');
  const lines = [plainLine({ id: 'l', to: 'note', from: { kind: 'field' as const, field: 'consent' } })];
  const strict = catalogueOf({
    lists: catalogue.lists,
    fields: catalogue.fields.map((one) => (one.key === 'note' ? { ...one, required: true, ours: true } : one)),
  });
  const findings = findingsOf({
    others: [],
    knowledge: [],
    document: { ...document, targets: [{ ...target, lines: [...target.lines, ...lines] }] },
    sources: [{ name: 'Form', live: formOf(fields.map((one) => ({ ...one, required: false }))) }],
    catalogues: { C: strict },
    purposes,
  });
  expect(findings.filter(({ message }) => message.startsWith('Note ')).map(({ level }) => level)).toEqual([
    'blocker',
    'blocker',
    'warning',
  ]);
});

describe('a target for some people only', () => {
  const only = (value: string) => {
    const [target] = document.targets;
    if (!target) throw new Error('no target');
    const when = { kind: 'test' as const, id: 'x', field: '@campaign', test: 'is' as const, value };
    const targets = [
      { ...target, when },
      { ...target, id: 'T2' },
    ];
    return plan({ routes: [{ ...route, document: { ...document, targets } }], visit: { campaign: 'comets' } });
  };
  it('takes those of whom it is so', () => {
    const planned = only('comets');
    expect(planned.deliveries.map(({ targetId }) => targetId)).toEqual(['T', 'T2']);
    expect(codes(planned)).not.toContain('not for them');
  });
  it('leaves out others, and says why', () => {
    const planned = only('moon');
    expect(planned.deliveries.map(({ targetId }) => targetId)).toEqual(['T2']);
    expect(planned.notes.find(({ code }) => code === 'not for them')?.text).toBe(
      'Route: target 1 is left out, since Campaign is "comets".',
    );
  });
  it('cannot go live while its condition asks for what is not there, or is compared with nothing', () => {
    const [target] = document.targets;
    if (!target) throw new Error('no target');
    const found = (field: string, value: string) =>
      findingsOf({
        others: [],
        knowledge: [],
        document: {
          ...document,
          targets: [{ ...target, when: { kind: 'all', of: [{ kind: 'test', id: 'x', field, test: 'is', value }] } }],
        },
        sources: [{ name: 'Form', live: formOf(fields) }],
        catalogues: { C: catalogue },
        purposes,
      }).filter(({ level, part }) => level === 'blocker' && part === 'target');
    expect(found('name', 'Mara')).toEqual([]);
    expect(found('gone', 'Mara')).toHaveLength(1);
    expect(found('name', ' ')).toHaveLength(1);
  });
});

it('what keeps a route from going live is said once for all its sources, or of those where it is so', () => {
  const whole = { name: 'Form', live: formOf(fields) };
  const found = (sources: { name: string; live: ReturnType<typeof formOf> | null }[]) =>
    findingsOf({ others: [], knowledge: [], document, sources, catalogues: { C: catalogue }, purposes })
      .filter(({ level }) => level === 'blocker')
      .map(({ message }) => message);
  expect(found([whole, { ...whole, name: 'Shop' }])).toEqual([]);
  expect(found([])).toEqual(['No source is chosen.']);
  expect(found([whole, { name: 'Shop', live: null }])).toEqual(['"Shop" is not live yet.']);
  const lacking = { name: 'Shop', live: formOf(fields.filter(({ key }) => key !== 'consent')) };
  expect(found([whole, lacking])).toEqual(['From "Shop": The tick box "consent" is not in the source.']);
});

it('a route that would change the first enquiry of somebody by their second is warned of', () => {
  const [target] = document.targets;
  if (!target) throw new Error('no target');
  const kinds = [{ id: 'enquiry', name: 'Enquiry', repeats: true, fields: catalogue.fields }];
  const can = { ...catalogue.can, kinds: true, duplicates: ['update' as const, 'add' as const] };
  const warnings = (duplicates: 'update' | 'add') =>
    findingsOf({
      others: [],
      knowledge: [],
      document: { ...document, targets: [{ ...target, kind: 'enquiry', duplicates }] },
      sources: [{ name: 'Form', live: formOf(fields) }],
      catalogues: { C: { ...catalogue, kinds, can } },
      purposes,
    }).filter(({ message }) => message.includes('thing of its own'));
  expect([warnings('update').length, warnings('add').length]).toEqual([1, 0]);
});

describe('of several targets in a branch', () => {
  const [first] = document.targets;
  if (!first) throw new Error('the route has no target');
  const moon = { kind: 'test' as const, id: 'c', field: 'name', test: 'is' as const, value: 'Moon' };
  const inBranch = (...targets: Partial<typeof first>[]) =>
    plan({
      routes: [
        { ...route, document: { ...document, targets: targets.map((more) => ({ ...first, branch: 'b', ...more })) } },
      ],
    });

  it('the first goes that is for the person, and the others say so', () => {
    const planned = inBranch({ id: 'A', when: moon }, { id: 'B' }, { id: 'C' });
    expect(planned.deliveries.map(({ targetId }) => targetId)).toEqual(['B']);
    expect(planned.notes.map(({ code, text }) => [code, text])).toEqual([
      ['not for them', 'Route: target 1 is left out, since name is "Mara Quill".'],
      ['other branch', 'Route: target 3 is left out, since they go to target 2.'],
    ]);
  });

  it('none goes where none is for the person, and that is said', () => {
    const planned = inBranch({ id: 'A', when: moon }, { id: 'B', when: moon });
    expect(planned.deliveries).toEqual([]);
    expect(codes(planned)).toContain('nothing applies');
  });
});

describe('what is known of a person', () => {
  const [first] = document.targets;
  if (!first) throw new Error('the route has no target');
  const asking = (field: string, value: string): LiveRoute => ({
    ...route,
    document: {
      ...document,
      targets: [{ ...first, when: { kind: 'test', id: 'c', field, test: 'is', value } }],
    },
  });
  const goes = (live: LiveRoute, more: Partial<PlanInput> = {}) =>
    plan({ routes: [live], ...more }).deliveries.length > 0;

  it('decides where they go: what they agree to with this very form counts, and what nobody knows is no yes', () => {
    const { purpose } = ONE_BY_EMAIL;
    expect(goes(asking(`@agreed ${purpose} email`, 'yes'))).toBe(true);
    expect(goes(asking(`@agreed ${purpose} sms`, 'yes'))).toBe(false);
    expect(goes(asking(`@agreed ${purpose} sms`, 'no'))).toBe(false);
  });

  it('is what was delivered, not what is on its way', () => {
    const [meant] = plan().deliveries;
    if (!meant) throw new Error('nothing was planned');
    const sent = (arrived: boolean): KnownPerson => ({
      ...NOBODY,
      sent: [{ routeId: 'R', routeVersion: 1, targetId: 'T', connectionId: 'C', arrived, intent: meant.intent }],
    });
    const [place] = meant.intent.places;
    const asked = asking(`@in list C ${place?.list}`, 'yes');
    expect(goes(asked, { known: sent(true) })).toBe(true);
    expect(goes(asked, { known: sent(false) })).toBe(false);
  });
});

describe('a file that a visitor handed over', () => {
  const chart = {
    file: 'F',
    name: 'chart.pdf',
    mediaType: 'application/pdf',
    size: 2_000,
    sha256: 'a'.repeat(64),
    link: 'https://iwashi.example/files/F',
  };
  const withFile = [...fields, sourceField('plan', 'file', { label: 'Plan' })];
  const mail = (kind: RouteMail['kind']): RouteMail => ({
    id: 'm',
    kind,
    when: null,
    to: kind === 'notify' ? ['desk@hill.example'] : [],
    after: 'now',
    subject: 'We have {plan}',
    body: '{plan}\n{@answers}',
  });
  it.each(['answer', 'notify'] as const)('is in a mail of the kind "%s" with its link for colleagues alone', (kind) => {
    const { mails } = plan({
      fields: withFile,
      values: { ...values, plan: chart },
      routes: [{ ...route, document: { ...document, mails: [mail(kind)] } }],
    });
    const [sent] = mails;
    expect(`${sent?.subject} ${sent?.text}`).toContain('chart.pdf');
    expect(`${sent?.subject} ${sent?.text}`.includes(chart.link)).toBe(kind === 'notify');
  });
});
