import { describe, expect, it } from 'vitest';
import { abilities, catalogueOf } from '../../../../test/world/catalogue.ts';
import { formOf, sourceField } from '../../../../test/world/fields.ts';
import { findingsOf } from '../../../../test/world/preflight.ts';
import { routeOf, targetOf } from '../../../../test/world/routes.ts';
import { chainOf, plainLine, READY, type DestinationField, type MapLine } from '../../mapping/index.ts';
import type { FieldValues, SourceField } from '../../values/index.ts';
import {
  findingKey,
  type Abilities,
  type Catalogue,
  type CheckedConnection,
  type ConsentAsk,
  type Finding,
  type RouteDocument,
  type RouteMail,
  type Target,
} from '../index.ts';
import type { TestName } from '../../conditions/index.ts';
import { saying } from '../../forms/index.ts';
import type { Purpose } from '../../consent/index.ts';
import type { SourceDocument } from '../../intake/index.ts';
import { CHECKS } from './checks/index.ts';

/** The day of the tests. */
const NOW = Date.UTC(2026, 4, 31);

const there = (
  key: string,
  type: DestinationField['type'],
  more: Partial<DestinationField> = {},
): DestinationField => ({
  key,
  label: `${key} there`,
  type,
  required: false,
  choices: [],
  maxLength: null,
  ...more,
});
const DESTINATION = [
  there('often', 'choice', { choices: ['every month', 'Never'] }),
  there('flag', 'yes/no'),
  there('born', 'date'),
  there('note', 'text', { maxLength: 20 }),
  there('figure', 'number'),
];
const FIELDS = [
  sourceField('email', 'email', { required: true, keepAs: 'email' }),
  sourceField('likes', 'choice', { label: 'Likes', options: ['every month', 'never', 'now and then'] }),
  sourceField('many', 'several choices', { label: 'Many', options: ['a', 'b'] }),
  sourceField('words', 'text', { label: 'Words' }),
  sourceField('story', 'long text', { label: 'Story' }),
  sourceField('tick', 'yes/no', { label: 'Yes, write to me' }),
  sourceField('paper', 'file', { label: 'Paper' }),
];
const catalogue = catalogueOf({
  fields: DESTINATION,
  lists: [{ id: 'L', name: 'Letter', groups: [], confirms: false }],
});

const target = (more: Partial<Target> = {}) => targetOf('t', more);
const route = (more: Partial<RouteDocument> = {}): RouteDocument => {
  const { consent } = routeOf();
  const asks = [{ id: 'a', purpose: 'p', channels: ['email' as const], tickField: 'tick' }];
  return routeOf({ targets: [target()], consent: { ...consent, asks, confirmedBy: { by: 'iwashi' } }, ...more });
};
const withLine = (to: string, from: string, more: Partial<MapLine> = {}) =>
  route({ targets: [target({ lines: [plainLine({ id: 'l', to, from: { kind: 'field', field: from }, ...more })] })] });

/** How a route is looked at, where a test says more than the document. */
interface Looked {
  fields?: SourceField[];
  others?: RouteDocument[];
  catalogues?: Record<string, Catalogue>;
  purposes?: Purpose[];
  /** null: it was removed. */
  connection?: Partial<CheckedConnection> | null;
  samples?: FieldValues[];
  source?: Partial<SourceDocument>;
  isChanged?: boolean;
  pace?: number;
  names?: string[];
}

const LETTER: Purpose = {
  id: 'p',
  name: 'Letter',
  wordings: ['Yes, write to me', 'By sending you agree'],
  channels: ['email', 'sms'],
  archived: false,
};

const connected = (more: Partial<CheckedConnection>): CheckedConnection => ({
  name: 'Tern',
  state: 'active',
  catalogueAt: NOW,
  perMinute: 60,
  leadsTo: null,
  trouble: null,
  ...more,
});
const FORMERLY = { formerly: { name: 'Old', until: NOW - 1000 } };

const found = (
  document: RouteDocument,
  {
    fields = FIELDS,
    others = [],
    catalogues = { C: catalogue },
    purposes = [LETTER],
    connection = {},
    samples = [],
    source = {},
    isChanged = false,
    pace = 0,
    names = ['Ridge'],
  }: Looked = {},
) =>
  findingsOf({
    document,
    sources: [{ name: 'Form', live: { ...formOf(fields), ...source } as SourceDocument, isChanged, samples, pace }],
    catalogues,
    connections: connection ? { C: connected(connection) } : {},
    purposes,
    names,
    others: others.map((other, index) => ({ id: `o${index}`, name: 'Other', document: other })),
    now: NOW,
  });
const ending = (message: string): Looked => ({ source: { ...formOf(FIELDS), ending: saying(message) } });
const changed = (id: string, more: Partial<SourceField>) =>
  FIELDS.map((field) => (field.id === id ? { ...field, ...more } : field));

const look = (pairs: [string, string][], unknown: string) => chainOf({ kind: 'look-up', options: { pairs, unknown } });
const EVERY: [string, string] = ['every month', 'every month'];
const NEVER: [string, string] = ['never', 'Never'];
const SOMETIMES: [string, string] = ['now and then', 'every month'];
const intoList = (id: string) => target({ id, places: [{ id: 'p', list: 'L', group: '', when: null }] });
const when = (value: string) => ({ kind: 'test' as const, id: 'c', field: 'likes', test: 'is' as const, value });

const withCan = (can: Partial<Abilities>, more: Partial<Catalogue> = {}): Looked => ({
  catalogues: { C: catalogueOf({ ...catalogue, ...more, can: abilities(can) }) },
});
const withConsent = (consent: Partial<RouteDocument['consent']>, more: Partial<RouteDocument> = {}) =>
  route({ consent: { ...route().consent, ...consent }, ...more });
const withAsk = (ask: Partial<ConsentAsk>) =>
  withConsent({ asks: [{ id: 'a', purpose: 'p', channels: ['email'], tickField: 'tick', ...ask }] });
const withMail = (mail: Partial<RouteMail>, consent: Partial<RouteDocument['consent']> = {}) =>
  withConsent(consent, {
    mails: [
      {
        id: 'm',
        kind: 'notify',
        when: null,
        to: ['desk@ridge.example'],
        after: 'now',
        subject: 'Somebody came',
        body: '{@answers}',
        ...mail,
      },
    ],
  });
const withTarget = (more: Partial<Target>) => route({ targets: [target(more)] });
const place = (list: string, group = '') => ({ places: [{ id: 'p', list, group, when: null }] });
const tag = (name: string) => ({ id: `tag-${name}`, tag: name, when: null });
const asked = (field: string, test: TestName, value: string) => ({
  kind: 'test' as const,
  id: 'c',
  field,
  test,
  value,
});
const inLetter = (confirms: boolean | undefined, can: Partial<Abilities> = {}): Looked => ({
  catalogues: {
    C: {
      ...catalogue,
      can: { ...catalogue.can, ...can },
      lists: [{ id: 'L', name: 'Letter', groups: [], ...(confirms === undefined ? {} : { confirms }) }],
    },
  },
});
const confirmedBy = (by: RouteDocument['consent']['confirmedBy']) =>
  withConsent({ confirmedBy: by }, { targets: [target(place('L'))] });
const many = (values: FieldValues) => Array.from({ length: 20 }, () => values);
const required: Looked = {
  catalogues: { C: { ...catalogue, fields: [there('must', 'text', { required: true }), ...DESTINATION] } },
};
const kinds: Looked = withCan(
  { kinds: true, duplicates: ['update', 'add'] },
  { kinds: [{ id: 'enquiry', name: 'Enquiry', repeats: true, fields: [] }] },
);
const addressed = (...keys: string[]): Looked => ({
  fields: [...FIELDS, sourceField('friend', 'email', { label: 'Friend' })],
  catalogues: { C: { ...catalogue, fields: keys.map((key) => there(key, 'email', { required: true })) } },
});

const lettersFormerly = (until: number) =>
  withCan({}, { lists: [{ id: 'L', name: 'Letter', groups: [], formerly: { name: 'Post', until } }] });
const TROUBLE = { problem: 'It does not answer.', nextStep: 'Try again.', lacks: [] };

const NEED = { ask: 'a', channel: 'email' as const };
const BOTH = [LETTER, { ...LETTER, id: 'letters', name: 'Star letter' }];
/** Another live route, of another source, that puts those into the list who agreed to a purpose. */
const intoLetterFor = (purpose: string): RouteDocument => {
  const document = withTarget({ ...place('L'), needs: NEED });
  const asks = document.consent.asks.map((ask) => ({ ...ask, purpose }));
  return { ...document, sourceIds: ['another'], consent: { ...document.consent, asks } };
};

/** Each check, provoked and mended. */
const CASES: Record<string, [provoked: () => Finding[], mended: () => Finding[], times?: number]> = {
  'nothing says who somebody is': [
    () => found(route(), { fields: FIELDS.filter(({ id }) => id !== 'email') }),
    () => found(route()),
  ],
  'answers go nowhere': [
    () => found(route(), { fields: FIELDS.slice(0, 2) }),
    () => found(withMail({}), { fields: FIELDS.slice(0, 2) }),
    2,
  ],
  'the ending speaks of a mail that nobody sends': [
    () => found(confirmedBy({ by: 'nobody' }), ending('Please look into your mailbox.')),
    () => found(route(), ending('Please look into your mailbox.')),
  ],
  'the ending does not speak of the mail that asks': [
    () => found(route(), ending('We will be in touch.')),
    () => found(route(), ending('')),
  ],
  'the ending promises a mail to those who confirmed before': [
    () => found(route(), ending('Please look into your mailbox.')),
    () => found(route(), ending('Unless you confirmed before, please look into your mailbox.')),
  ],
  'the source has unpublished changes': [() => found(route(), { isChanged: true }), () => found(route())],
  'a field is never filled in': [
    () => found(withLine('note', 'words'), { samples: many({ words: '' }) }),
    () => found(withLine('note', 'words'), { samples: [...many({}), { words: 'x' }] }),
  ],
  'it leads nowhere': [
    () => found(route({ targets: [] })),
    () => found(route({ targets: [], mails: withMail({}).mails })),
  ],
  'no verified connection': [() => found(route(), { catalogues: {} }), () => found(route())],
  'the connection does not work': [
    () => found(route(), { connection: { state: 'paused' } }),
    () => found(route(), { connection: { state: 'active' } }),
  ],
  'what the destination offers was fetched long ago': [
    () => found(route(), { connection: { catalogueAt: NOW - 90_000_000 } }),
    () => found(route(), { connection: { catalogueAt: NOW - 80_000_000 } }),
  ],
  'nobody can look there': [
    () => found(route(), withCan({ readBack: false })),
    () => found(route(), withCan({ readBack: true })),
  ],
  'a target is never reached': [
    () => found(route({ targets: [target({ id: 'a', branch: 'b' }), target({ id: 'c', branch: 'b' })] })),
    () =>
      found(
        route({ targets: [target({ id: 'a', branch: 'b', when: when('never') }), target({ id: 'c', branch: 'b' })] }),
      ),
  ],
  'for some people nothing applies': [
    () => found(route({ targets: [target({ when: when('never') })] })),
    () => found(route({ targets: [target({ when: when('never') }), target({ id: 'c' })] })),
  ],
  'no submission ever went there': [
    () => found(withTarget({ when: when('never') }), { samples: many({ likes: 'every month' }) }),
    () => found(withTarget({ when: when('never') }), { samples: many({ likes: 'never' }) }),
  ],
  'the destination is slower than the source': [() => found(route(), { pace: 61 }), () => found(route(), { pace: 60 })],
  'a condition asks for what is not there': [
    () => found(withTarget({ when: asked('gone', 'is', 'x') })),
    () => found(withTarget({ when: asked('words', 'is', 'x') })),
  ],
  'a condition is compared with nothing': [
    () => found(withTarget({ tags: [{ ...tag('x'), when: asked('words', 'is', ' ') }] })),
    () => found(withTarget({ tags: [{ ...tag('x'), when: asked('words', 'is empty', '') }] })),
  ],
  'a test does not suit its field': [
    () => found(withTarget({ when: asked('story', 'is before', '2026-01-01') })),
    () => found(withTarget({ when: asked('story', 'contains', '2026-01-01') })),
  ],
  'a condition contradicts itself': [
    () => found(withTarget({ when: { kind: 'all', of: [when('never'), when('every month')] } })),
    () => found(withTarget({ when: { kind: 'any', of: [when('never'), when('every month')] } })),
  ],
  'no kind of record is chosen': [
    () => found(route(), kinds),
    () => found(withTarget({ kind: 'enquiry', duplicates: 'add' }), kinds),
  ],
  'the kind of record is gone': [
    () => found(withTarget({ kind: 'call' }), kinds),
    () => found(withTarget({ kind: 'enquiry' }), kinds),
  ],
  'renamed there of late': [
    () => found(withTarget(place('L')), lettersFormerly(NOW - 86_400_000)),
    () => found(withTarget(place('L')), lettersFormerly(NOW - 40 * 86_400_000)),
  ],
  'test data would go into a list': [
    () => found(withTarget(place('L')), { samples: [{ email: 'test@hill.example' }, { email: 'ada@hill.example' }] }),
    () => found(withTarget(place('L')), { samples: [{ email: 'protest@hill.example' }] }),
  ],
  'a loop': [
    () => found(route(), { connection: { leadsTo: 'S' } }),
    () => found(route(), { connection: { leadsTo: 'another' } }),
  ],
  'people who left are refused there': [
    () => found(confirmedBy({ by: 'nobody' }), withCan({ refusesLeft: true })),
    () => found(confirmedBy({ by: 'iwashi' }), withCan({ refusesLeft: true })),
  ],
  'the access lacks a permission': [
    () => found(route(), { connection: { trouble: { ...TROUBLE, lacks: ['members:read'] } } }),
    () => found(route(), { connection: { trouble: null } }),
  ],
  'the last check of the connection failed': [
    () => found(route(), { connection: { trouble: TROUBLE } }),
    () => found(route(), { connection: { trouble: null } }),
  ],
  'nobody said who asks': [() => found(route(), { names: [] }), () => found(route())],
  'the words do not say who asks': [
    () => found(route()),
    () => found(route(), { fields: changed('tick', { label: 'Yes, the  RIDGE may write to me' }) }),
  ],
  'the confirmation mail does not say who asks': [
    () => found(route()),
    () => found(withConsent({ mail: { subject: 'One', body: '{link}\n\nThe Ridge', button: 'Yes' } })),
  ],
  'what is there may be taken away': [
    () => found(withTarget(place('L')), withCan({ takesAway: ['lists', 'tags'] })),
    () => found(withTarget({ tags: [] }), withCan({ takesAway: ['tags'] })),
  ],
  'only the first list is taken': [
    () => found(withTarget({ places: [...place('L').places, ...place('M').places] }), withCan({ oneList: true })),
    () => found(withTarget(place('L')), withCan({ oneList: true })),
  ],
  'no list is chosen': [() => found(route()), () => found(withTarget(place('L')))],
  'the list is gone': [() => found(withTarget(place('X'))), () => found(withTarget(place('L')))],
  'the group is not in the list': [() => found(withTarget(place('L', 'G'))), () => found(withTarget(place('L')))],
  'the service cannot treat those who are there so': [
    () => found(withTarget({ duplicates: 'add' })),
    () => found(withTarget({ duplicates: 'update' })),
  ],
  'a second record would change the first': [
    () => found(withTarget({ kind: 'enquiry', duplicates: 'update' }), kinds),
    () => found(withTarget({ kind: 'enquiry', duplicates: 'add' }), kinds),
  ],
  'people cannot be taken out there': [
    () => found(withTarget({ leaves: [{ list: 'L', group: '' }] }), withCan({ leavesLists: false })),
    () => found(withTarget({ leaves: [] }), withCan({ leavesLists: false })),
  ],
  'what people are taken out of is gone': [
    () => found(withTarget({ leaves: [{ list: 'X', group: '' }] })),
    () => found(withTarget({ leaves: [{ list: 'L', group: '' }] })),
  ],
  'put in and taken out again': [
    () => found(withTarget({ ...place('L'), leaves: [{ list: 'L', group: '' }] })),
    () => found(withTarget({ leaves: [{ list: 'L', group: '' }] })),
  ],
  'a tag is set and taken off': [
    () => found(withTarget({ tags: [tag('x')], tagsOff: ['x'] })),
    () => found(withTarget({ tags: [tag('x')], tagsOff: ['y'] })),
  ],
  'there are no tags there': [
    () => found(withTarget({ tags: [tag('x')] }), withCan({ tags: false })),
    () => found(withTarget({ tags: [] }), withCan({ tags: false })),
  ],
  'tags cannot be taken off there': [
    () => found(withTarget({ tagsOff: ['x'] }), withCan({ untags: false })),
    () => found(withTarget({ tagsOff: [] }), withCan({ untags: false })),
  ],
  'a tag has no name': [() => found(withTarget({ tags: [tag(' ')] })), () => found(withTarget({ tags: [tag('x')] }))],
  'a tag is not there yet': [
    () => found(withTarget({ tags: [tag('x')] })),
    () => found(withTarget({ tags: [tag('x')] }), withCan({}, { tags: [{ id: 'x', name: 'x' }] })),
  ],
  'required there and not mapped': [() => found(route(), required), () => found(withLine('must', 'words'), required)],
  'filled from what the source does not have': [
    () => found(withLine('note', 'gone')),
    () => found(withLine('note', 'words')),
  ],
  "a visitor's words go where your own belong": [
    () =>
      found(withLine('from', 'words'), {
        catalogues: { C: { ...catalogue, fields: [there('from', 'text', { ours: true })] } },
      }),
    () =>
      found(withLine('from', '', { from: { kind: 'fixed', value: 'us' } }), {
        catalogues: { C: { ...catalogue, fields: [there('from', 'text', { ours: true })] } },
      }),
  ],
  'another address than the one that identifies': [
    () => found(withLine('mail', 'friend'), addressed('mail')),
    () => found(withLine('mail', 'email'), addressed('mail')),
  ],
  'required there, and may be empty here': [
    () => found(withLine('must', 'words'), required),
    () => found(withLine('must', 'words', { whenEmpty: { kind: 'value', value: 'none' } }), required),
  ],
  'required there, and for some people only': [
    () => found(withLine('must', 'words', { when: when('never') }), required),
    () => found(withLine('must', 'words'), required),
  ],
  'a step cannot take what comes': [
    () => found(withLine('note', 'tick', { steps: chainOf({ kind: 'write a date', options: {} }) })),
    () => found(withLine('note', 'tick', { steps: chainOf({ kind: 'yes/no', options: {} }) })),
  ],
  'goes by what nobody can look at': [
    () => found(withLine('note', 'words', { overwrite: 'longest' }), withCan({ duplicates: ['update'] })),
    () => found(withLine('note', 'words', { overwrite: 'latest' }), withCan({ duplicates: ['update'] })),
  ],
  'a text has in it what the source does not have': [
    () => found(withLine('note', '', { from: { kind: 'text', text: 'Hello {nobody}' } })),
    () => found(withLine('note', '', { from: { kind: 'text', text: 'Hello {words}' } })),
  ],
  'mapped to a field that is gone': [() => found(withLine('shoe', 'words')), () => found(withLine('note', 'words'))],
  'a line is filled from nothing': [
    () => found(withLine('note', '', { from: { kind: 'text', text: ' ' } })),
    () => found(withLine('note', '', { from: { kind: 'first', fields: ['words'] } })),
  ],
  'an empty answer clears what is there': [
    () => found(withLine('note', 'words', { whenEmpty: { kind: 'clear' } })),
    () => found(withLine('note', 'words', { whenEmpty: { kind: 'leave out' } })),
  ],
  'what is there may be better': [
    () =>
      found(withLine('note', 'words'), {
        fields: changed('words', { keepAs: 'first_name' }),
        source: { trust: 'less' },
      }),
    () =>
      found(withLine('note', 'words', { overwrite: 'fill gaps' }), {
        fields: changed('words', { keepAs: 'first_name' }),
        source: { trust: 'less' },
      }),
  ],
  'a whole name goes into one part of it': [
    () =>
      found(withLine('Surname', 'words'), {
        fields: changed('words', { keepAs: 'full_name' }),
        catalogues: { C: { ...catalogue, fields: [there('Surname', 'text', { label: 'Surname' })] } },
      }),
    () =>
      found(withLine('Surname', 'words', { steps: chainOf(READY.lastName) }), {
        fields: changed('words', { keepAs: 'full_name' }),
        catalogues: { C: { ...catalogue, fields: [there('Surname', 'text', { label: 'Surname' })] } },
      }),
  ],
  'personal data in the address of a page': [
    () => found(withMail({ body: 'https://ridge.example/visit?who={email}' })),
    () => found(withMail({ body: 'https://ridge.example/visit {email}' })),
  ],
  'no purpose is chosen': [() => found(withAsk({ purpose: '' })), () => found(withAsk({ purpose: 'p' }))],
  'the purpose is gone': [() => found(withAsk({ purpose: 'q' })), () => found(withAsk({ purpose: 'p' }))],
  'the purpose is archived': [
    () => found(route(), { purposes: [{ ...LETTER, archived: true }] }),
    () => found(route()),
  ],
  'the consent box is not in the source': [
    () => found(withAsk({ tickField: 'gone' })),
    () => found(withAsk({ tickField: 'tick' })),
  ],
  'no words that people agree to': [
    () => found(withAsk({ tickField: '' })),
    () => found(withAsk({ tickField: '' }), { source: { statement: 'By sending you agree' } }),
  ],
  'the words speak of something else': [
    () => found(route(), { fields: changed('tick', { label: 'Yes, call me' }) }),
    () => found(route()),
  ],
  'no channel is chosen': [() => found(withAsk({ channels: [] })), () => found(withAsk({ channels: ['email'] }))],
  'a channel that the purpose does not have': [
    () => found(withAsk({ channels: ['email', 'post'] })),
    () => found(withAsk({ channels: ['email', 'sms'] })),
  ],
  'a channel, and no field for where': [
    () => found(withAsk({ channels: ['sms'] })),
    () => found(withAsk({ channels: ['sms'] }), { fields: [...FIELDS, sourceField('number', 'phone')] }),
  ],
  'a consent box is required': [
    () => found(route(), { fields: changed('tick', { required: true }) }),
    () => found(route(), { fields: changed('tick', { required: false }) }),
  ],
  'a list without anybody asked': [
    () => found(withConsent({ asks: [] }, { targets: [target(place('L'))] })),
    () => found(route({ targets: [target(place('L'))] })),
  ],
  'a target needs no consent': [
    () => found(withTarget({ needs: null })),
    () => found(withTarget({ needs: { ask: 'a', channel: 'email' } })),
  ],
  'a target needs what nobody is asked for': [
    () => found(withTarget({ needs: { ask: 'z', channel: 'email' } })),
    () => found(withTarget({ needs: { ask: 'a', channel: 'email' } })),
  ],
  'a target needs consent by a channel that nobody is asked for': [
    () => found(withTarget({ needs: { ask: 'a', channel: 'sms' } })),
    () => found(withTarget({ needs: { ask: 'a', channel: 'email' } })),
  ],
  'no address at which to confirm': [
    () => found(route(), { fields: [sourceField('number', 'phone', { keepAs: 'phone' }), ...FIELDS.slice(1)] }),
    () => found(route()),
  ],
  'the confirmation mail has no link': [
    () => found(withConsent({ mail: { subject: 'One', body: 'Two', button: 'Yes' } })),
    () => found(withConsent({ mail: { subject: 'One', body: '{link}', button: 'Yes' } })),
  ],
  'the confirmation mail has no subject': [
    () => found(withConsent({ mail: { subject: ' ', body: '{link}', button: 'Yes' } })),
    () => found(withConsent({ mail: { subject: 'One', body: '{link}', button: 'Yes' } })),
  ],
  'little time to confirm': [
    () => found(withConsent({ expiresHours: 2 })),
    () => found(withConsent({ expiresHours: 24 })),
  ],
  'a mail confirms nothing': [
    () => found(withAsk({ channels: ['sms'] })),
    () => found(withAsk({ channels: ['sms', 'email'] })),
  ],
  'who is to confirm is not in the route': [
    () => found(confirmedBy({ by: 'target', targetId: 'gone' })),
    () => found(confirmedBy({ by: 'target', targetId: 't' })),
  ],
  'who is to confirm asks nobody': [
    () => found(confirmedBy({ by: 'target', targetId: 't' }), inLetter(false)),
    () => found(confirmedBy({ by: 'target', targetId: 't' }), inLetter(true)),
  ],
  'whether people are asked to confirm cannot be seen': [
    () => found(confirmedBy({ by: 'target', targetId: 't' }), inLetter(undefined)),
    () => found(confirmedBy({ by: 'target', targetId: 't' }), inLetter(true)),
  ],
  'single opt-in': [() => found(confirmedBy({ by: 'nobody' })), () => found(confirmedBy({ by: 'iwashi' }))],
  'a list confirms, and the route does not know it': [
    () => found(confirmedBy({ by: 'nobody' }), inLetter(true)),
    () => found(confirmedBy({ by: 'target', targetId: 't' }), inLetter(true)),
  ],
  'two systems confirm': [
    () => found(confirmedBy({ by: 'iwashi' }), inLetter(true)),
    () => found(confirmedBy({ by: 'iwashi' }), inLetter(true, { takesProof: true })),
  ],
  'a mail has no subject': [() => found(withMail({ subject: ' ' })), () => found(withMail({}))],
  'a mail has no text': [() => found(withMail({ body: ' ' })), () => found(withMail({}))],
  'a mail has in it what the source does not have': [
    () => found(withMail({ body: 'Hello {nobody}' })),
    () => found(withMail({ body: 'Hello {words}' })),
  ],
  'an answer has nowhere to go': [
    () => found(withMail({ kind: 'answer' }), { fields: [sourceField('number', 'phone', { keepAs: 'phone' })] }),
    () => found(withMail({ kind: 'answer' })),
  ],
  'a mail tells nobody': [() => found(withMail({ to: [] })), () => found(withMail({}))],
  'a mail goes to what is no address': [
    () => found(withMail({ to: ['desk', 'desk@ridge.example'] })),
    () => found(withMail({ to: ['desk@ridge.example'] })),
  ],
  'a mail waits for what never comes': [
    () => found(withMail({ after: 'confirmed' }, { confirmedBy: { by: 'nobody' } })),
    () => found(withMail({ after: 'confirmed' }, { confirmedBy: { by: 'iwashi' } })),
  ],

  'a consent box is ticked already': [
    () => found(route(), { fields: changed('tick', { preset: 'yes' }) }),
    () => found(route(), { fields: changed('tick', { preset: '' }) }),
  ],
  'one tick for two purposes': [
    () => {
      const { consent } = route();
      const second = { id: 'b', purpose: 'q', channels: ['email' as const], tickField: 'tick' };
      return found(route({ consent: { ...consent, asks: [...consent.asks, second] } }));
    },
    () => {
      const { consent } = route();
      const second = { id: 'b', purpose: 'q', channels: ['email' as const], tickField: '' };
      return found(route({ consent: { ...consent, asks: [...consent.asks, second] } }));
    },
  ],
  'a broken placeholder in the confirmation mail': [
    () => {
      const { consent } = route();
      return found(route({ consent: { ...consent, mail: { ...consent.mail, body: '{lnk} {link}' } } }));
    },
    () => found(route()),
  ],
  'type cannot fit': [() => found(withLine('figure', 'paper')), () => found(withLine('figure', 'words'))],
  'values that came are left out': [
    () => found(withLine('figure', 'words'), { samples: [{ words: 'twelve' }, { words: '12' }, { words: '' }] }),
    () => found(withLine('figure', 'words'), { samples: [{ words: '13' }, { words: '12' }, { words: '' }] }),
  ],
  'a written value is not taken there': [
    () => found(withLine('figure', '', { from: { kind: 'fixed', value: 'many' } })),
    () => found(withLine('figure', '', { from: { kind: 'fixed', value: '7' } })),
  ],
  'look-up gives what is no choice there': [
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, ['now and then', 'often']], 'is left out') })),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is left out') })),
  ],
  'look-up misses answers': [
    () => found(withLine('often', 'likes', { steps: look([EVERY], 'is an error') })),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is an error') })),
  ],
  'answers are no choices there': [
    () => found(withLine('often', 'likes')),
    () => found(withLine('often', 'likes', { steps: look([EVERY, NEVER, SOMETIMES], 'is an error') })),
  ],
  'several answers for one value': [
    () =>
      found(
        withLine('often', 'many', {
          steps: look(
            [
              ['a', 'Never'],
              ['b', 'Never'],
            ],
            'is kept',
          ),
        }),
      ),
    () =>
      found(
        withLine('often', 'many', {
          steps: chainOf(
            { kind: 'pick', options: {} },
            {
              kind: 'look-up',
              options: {
                pairs: [
                  ['a', 'Never'],
                  ['b', 'Never'],
                ],
              },
            },
          ),
        }),
      ),
  ],
  'a flag is fed by words': [() => found(withLine('flag', 'words')), () => found(withLine('flag', 'tick'))],
  'may be too long there': [
    () => found(withLine('note', 'story')),
    () => found(withLine('note', 'story', { steps: chainOf({ kind: 'cut', options: { length: 20 } }) })),
  ],
  'a list goes into a text': [
    () => found(withLine('note', 'many')),
    () =>
      found(withLine('note', 'many', { steps: chainOf({ kind: 'join', options: {} }, { kind: 'cut', options: {} }) })),
  ],
  'the same list twice': [
    () => found(route({ targets: [intoList('one'), intoList('two')] })),
    () => found(route({ targets: [intoList('one'), target({ id: 'two' })] })),
  ],
  'the list is for another purpose': [
    () => found(withTarget({ ...place('L'), needs: NEED }), { others: [intoLetterFor('letters')], purposes: BOTH }),
    () => found(withTarget({ ...place('L'), needs: NEED }), { others: [intoLetterFor('p')], purposes: BOTH }),
  ],
  'a condition asks for what is no answer': [
    () => found(route({ targets: [target({ when: when('sometimes') })] })),
    () => found(route({ targets: [target({ when: when('Never') })] })),
  ],
};

describe('a check of a route before it goes live', () => {
  it('has a case here, a code of its own, and says why it matters', () => {
    expect(CHECKS.map(({ code }) => code).sort()).toEqual(Object.keys(CASES).sort());
    expect(new Set(CHECKS.map(({ code }) => code)).size).toBe(CHECKS.length);
    for (const { why } of CHECKS) expect(why).toMatch(/\.$|\)\.$/);
  });

  it.each(Object.entries(CASES))(
    '%s: is found, and is gone when it is mended',
    (code, [provoked, mended, times = 1]) => {
      const before = provoked();
      const own = before.filter((one) => one.code === code);
      expect(own).toHaveLength(times);
      expect(own[0]).toMatchObject({
        message: expect.stringMatching(/\.$/) as string,
        fix: expect.stringMatching(/\.$/) as string,
      });
      expect(mended().map((one) => one.code)).not.toContain(code);
    },
  );

  it('offers the step that mends it, filled with what is known', () => {
    const finding = found(withLine('often', 'likes')).find(({ line }) => line === 'often');
    expect(finding).toMatchObject({
      line: 'often',
      target: 0,
      mend: {
        kind: 'look-up',
        options: { pairs: [EVERY, NEVER, ['now and then', '']] },
      },
    });
  });

  it('takes a row of a look-up without a result for what is missing', () =>
    expect(
      found(withLine('often', 'likes', { steps: look([EVERY, NEVER, ['now and then', '']], 'is kept') })),
    ).toContainEqual(
      expect.objectContaining({
        code: 'look-up misses answers',
        message: 'often there: the look-up gives nothing for "now and then".',
      }),
    ));

  it('names the other live route that puts people of the same source into the same list', () => {
    const other = route({ targets: [intoList('one')] });
    const document = route({ targets: [intoList('two')] });
    const twice = (others: RouteDocument[]) =>
      found(document, { others }).filter(({ code }) => code === 'the same list twice');
    expect(twice([other])).toMatchObject([
      { message: 'The route "Other" puts people of the same source into Letter as well.' },
    ]);
    expect(twice([{ ...other, sourceIds: ['another'] }])).toEqual([]);
  });

  it('follows what is sent to ourselves through other live routes, and says through which it comes back', () => {
    const through = (into: string) => ({
      id: 'o',
      name: 'Second',
      document: route({ sourceIds: ['T'], targets: [target({ connectionId: into })] }),
    });
    const loops = (into: string) =>
      findingsOf({
        document: route(),
        sources: [{ name: 'Form', live: formOf(FIELDS) }],
        connections: { C: connected({ leadsTo: 'T' }), D: connected({ leadsTo: 'S' }), E: connected({ leadsTo: 'T' }) },
        others: [through(into)],
      }).filter(({ code }) => code === 'a loop');
    expect(loops('D')).toMatchObject([
      { level: 'blocker', target: 0, message: expect.stringMatching(/, through "Second"\.$/) as string },
    ]);
    // Another loop, which does not come by here, is found where it is.
    expect(loops('E')).toEqual([]);
  });

  it.each([
    [
      'a group',
      { lists: [{ id: 'L', name: 'Letter', groups: [{ id: 'G', name: 'South', ...FORMERLY }] }] },
      'The group "Old" is called "South" there now.',
    ],
    [
      'a tag, which is set by its name',
      { tags: [{ id: 'x', name: 'new', ...FORMERLY }] },
      'The tag "Old" is called "new" there now.',
    ],
    [
      'a field, at its line',
      { fields: [{ ...there('note', 'text'), ...FORMERLY }] },
      'The field "Old" is called "note there" there now.',
    ],
  ])('says what was renamed there: %s', (_what, offers, message) => {
    const places = [{ id: 'p', list: 'L', group: 'G', when: null }];
    const lines = [plainLine({ id: 'l', to: 'note', from: { kind: 'field', field: 'words' } })];
    const findings = found(withTarget({ places, lines, tags: [tag('Old')] }), {
      catalogues: { C: { ...catalogue, ...offers } },
    });
    expect(findings.filter(({ code }) => code === 'renamed there of late')).toMatchObject([{ message }]);
  });

  it.each([
    ['ada@example.com', 'RFC 2606, section 3', true],
    ['ada@mail.example.org', 'RFC 2606, section 3', true],
    ['ada@ridge.invalid', 'RFC 2606, section 2', true],
    ['ada@ridge.test', 'RFC 2606, section 2', true],
    ['ada+test@hill.example', 'common practice, no source', true],
    ['contest@hill.example', '', false],
    ['ada@testament.example', '', false],
    ['ada@notexample.com', '', false],
  ])('%s looks like a test: %s', (email, _source, isTest) => {
    const codes = found(withTarget(place('L')), { samples: [{ email }] }).map(({ code }) => code);
    expect(codes.includes('test data would go into a list')).toBe(isTest);
  });

  it('says all that is wrong with one line at once', () =>
    expect(found(withLine('note', 'many')).flatMap(({ code, line }) => (line === 'note' ? [code] : []))).toEqual([
      'may be too long there',
      'a list goes into a text',
    ]));

  it('a warning that somebody lets stand keeps their reason; a blocker does not let itself be accepted', () => {
    const document = withLine('note', 'many');
    const accepted = Object.fromEntries(found(document).map((finding) => [findingKey(finding), 'It is meant so.']));
    for (const finding of found({ ...document, accepted }))
      expect(finding.accepted).toBe(finding.level === 'blocker' ? undefined : 'It is meant so.');
    const broken = route({ targets: [] });
    const [blocker] = found(broken);
    expect(
      blocker && found({ ...broken, accepted: { [findingKey(blocker)]: 'Never mind.' } })[0]?.accepted,
    ).toBeUndefined();
  });

  it('stays let stand while more comes in: what it says has no count of it', () => {
    const messages = (document: RouteDocument, looked: Looked) => found(document, looked).map(findingKey);
    const rare = withTarget({ when: when('never') });
    const more = (count: number): Looked => ({
      samples: Array.from({ length: count }, () => ({ likes: 'every month', words: '', email: 'test@hill.example' })),
      pace: 100 + count,
    });
    const documents = [rare, withLine('note', 'words'), withTarget(place('L'))];
    for (const document of documents) expect(messages(document, more(40))).toEqual(messages(document, more(41)));
    const codes = documents.flatMap((document) => found(document, more(40)).map(({ code }) => code));
    expect(codes).toEqual(
      expect.arrayContaining([
        'no submission ever went there',
        'a field is never filled in',
        'test data would go into a list',
        'the destination is slower than the source',
      ]),
    );
  });

  it('has enough of them, and one before anything comes', () => {
    expect(CHECKS.length).toBeGreaterThanOrEqual(40);
    expect(findingsOf({ document: route(), sources: [] })[0]?.code).toBe('no source');
    expect(findingsOf({ document: route(), sources: [{ name: 'Form', live: null }] })[0]?.code).toBe(
      'the source is not live',
    );
  });
});

describe('what is mended at a connection', () => {
  const DOWN: [string, Looked][] = [
    ['the connection does not work', { connection: { state: 'paused' } }],
    ['what the destination offers was fetched long ago', { connection: { catalogueAt: NOW - 90_000_000 } }],
    ['no verified connection', { catalogues: {} }],
    ['the access lacks a permission', { connection: { trouble: { problem: 'No', nextStep: 'Ask', lacks: ['x'] } } }],
    [
      'the last check of the connection failed',
      { connection: { trouble: { problem: 'No', nextStep: 'Ask', lacks: [] } } },
    ],
  ];
  it.each(DOWN)('leads there: %s', (code, looked) => {
    expect(found(route(), looked).find((one) => one.code === code)?.connectionId).toBe('C');
  });
  it('leads nowhere where it was removed', () => {
    const gone = found(route(), { catalogues: {}, connection: null }).find(
      ({ code }) => code === 'no verified connection',
    );
    expect(gone).toBeDefined();
    expect(gone?.connectionId).toBeUndefined();
  });
});
