import { SOURCE_FORMAT, type FormDocument, type PostsDocument } from '../../core/intake/index.ts';
import { lineId, type MapLine, type Step } from '../../core/mapping/index.ts';
import { ROUTE_FORMAT, type RouteDocument, type Target } from '../../core/plan/index.ts';
import { plainField, type SourceField } from '../../core/values/index.ts';

const field = (
  key: string,
  label: string,
  type: SourceField['type'],
  more: Partial<SourceField> = {},
): SourceField => ({ ...plainField(key, type), label, ...more });

export const INTERESTS = [
  'The Moon and planets',
  'Stargazing with the eye',
  'Taking pictures',
  'Evenings for families',
];

/** The form of the Sky letter page. */
export const skyLetterForm = (siteUrl: string): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  fields: [
    field('name', 'Your name', 'text', { required: true, keepAs: 'full_name' }),
    field('email', 'Email', 'email', { required: true, keepAs: 'email' }),
    field('interests', 'What do you like best?', 'several choices', { options: INTERESTS, keepAs: 'interests' }),
    field('telescope', 'I have a telescope', 'yes/no', { keepAs: 'telescope' }),
    field('consent', 'Yes, send me the Sky letter once a month. I can leave at any time.', 'yes/no', {
      required: true,
    }),
    field('page', 'Page', 'text', { widget: 'hidden', preset: 'sky-letter' }),
  ],
  button: 'Send me the Sky letter',
  statement: '',
  thankYouUrl: `${siteUrl}/thank-you`,
  thankYouMessage: 'Thank you. Please look into your mailbox and confirm your address.',
  origins: [siteUrl],
  minimumSeconds: 2,
});

const line = (to: string, source: string, ...steps: Step[]): MapLine => ({
  id: lineId(to),
  to,
  from: { kind: 'field', field: source },
  steps,
});

const text = (to: string, words: string): MapLine => ({
  id: lineId(to),
  to,
  from: { kind: 'text', text: words },
  steps: [],
});
const fixed = (to: string, value: string): MapLine => ({
  id: lineId(to),
  to,
  from: { kind: 'fixed', value },
  steps: [],
});

/** A target that has neither lists nor tags. */
const plainTarget = (connectionId: string, kind: string, lines: MapLine[], list = ''): Target => ({
  id: `to-${kind || connectionId}`.slice(0, 40),
  when: null,
  connectionId,
  kind,
  list,
  group: '',
  tags: [],
  tagRules: [],
  leaves: [],
  tagsOff: [],
  lines,
  duplicates: 'add',
});

export const signUpsTarget = (connectionId: string): Target =>
  plainTarget(connectionId, 'signups', [
    line('Email', 'email', 'trim', 'lower-case'),
    line('Name', 'name', 'trim'),
    text('Source', 'Sky letter, page {page}'),
  ]);

export const enquiryTarget = (connectionId: string): Target =>
  plainTarget(
    connectionId,
    'enquiry',
    [
      line('mail', 'email', 'trim', 'lower-case'),
      text('subject', 'Visit of {school}'),
      line('heads', 'pupils', 'trim'),
      text('note', 'From {first} {last}. Has been here: {visits}.'),
    ],
    'S1',
  );

export const bellTarget = (connectionId: string): Target =>
  plainTarget(connectionId, '', [
    text('text', '{school} would like to come, with {pupils} pupils.\nPlease answer {first} {last}, {email}.'),
  ]);

export const noticeTarget = (connectionId: string): Target =>
  plainTarget(connectionId, '', [
    fixed('from', 'letter@pellam-ridge.example'),
    fixed('to', 'front-desk@pellam-ridge.example'),
    line('replyTo', 'email', 'trim', 'lower-case'),
    text('subject', 'School visit: {school}'),
    text('text', '{first} {last} of {school} asks for a visit with {pupils} pupils.\nAnswer to: {email}'),
  ]);

export const skyLetterRoute = (sourceId: string, connectionId: string, more: Target[] = []): RouteDocument => ({
  format: ROUTE_FORMAT,
  sourceIds: [sourceId],
  targets: [
    {
      id: 'letter',
      when: null,
      connectionId,
      kind: '',
      list: 'L-100',
      group: 'G-110',
      tags: ['newsletter'],
      tagRules: [
        { id: 'r1', field: 'interests', answer: 'The Moon and planets', tag: 'planets' },
        { id: 'r2', field: 'interests', answer: 'Stargazing with the eye', tag: 'stargazing' },
        { id: 'r3', field: 'interests', answer: 'Taking pictures', tag: 'astrophotography' },
        { id: 'r4', field: 'interests', answer: 'Evenings for families', tag: 'families' },
      ],
      leaves: [],
      tagsOff: [],
      lines: [
        line('email', 'email', 'trim', 'lower-case'),
        line('given', 'name', 'first name'),
        line('family', 'name', 'last name'),
        line('signup_page', 'page', 'trim'),
        line('has_telescope', 'telescope', 'yes/no to 1/0'),
      ],
      duplicates: 'update',
    },
    ...more,
  ],
  consent: {
    mode: 'double',
    purpose: 'Sky letter',
    tickField: 'consent',
    mail: {
      subject: 'One more click for the Sky letter',
      body: 'Hello,\n\nsomebody, most likely you, asked for the Sky letter of Pellam Ridge Observatory with this address. Please confirm it:\n\n{link}\n\nIf it was not you, do nothing, and we will not write again.\n\nClear skies,\nPellam Ridge Observatory',
      button: 'Yes, send me the Sky letter',
    },
    expiresHours: 72,
    changes: 'ask',
  },
});

/** The form by which schools ask for a visit. */
export const schoolForm = (): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  fields: [
    field('first', 'First name', 'text', { required: true, keepAs: 'first_name', width: 'half' }),
    field('last', 'Last name', 'text', { required: true, keepAs: 'last_name', width: 'half' }),
    field('email', 'Email', 'email', { required: true, keepAs: 'email', help: 'Preferably your school address.' }),
    field('school', 'School', 'text', { required: true, keepAs: 'school' }),
    field('pupils', 'How many pupils come?', 'number', { required: true, width: 'half' }),
    field('visits', 'Have you been here before?', 'choice', {
      width: 'half',
      options: ['first time', 'now and then', 'every month'],
      keepAs: 'visits',
    }),
  ],
  button: 'Ask for a visit',
  statement: 'By sending this you agree that we write to you about your visit.',
  thankYouUrl: '',
  thankYouMessage: 'Thank you. We will write to you within two days.',
  origins: [],
  minimumSeconds: 2,
});

export const schoolRoute = (sourceId: string, connectionId: string, more: Target[] = []): RouteDocument => ({
  format: ROUTE_FORMAT,
  sourceIds: [sourceId],
  targets: [
    {
      id: 'letter',
      when: null,
      connectionId,
      kind: '',
      list: 'L-200',
      group: 'G-210',
      tags: [],
      tagRules: [],
      leaves: [],
      tagsOff: [],
      lines: [
        line('email', 'email', 'trim', 'lower-case'),
        line('given', 'first', 'trim'),
        line('family', 'last', 'trim'),
        line('visits', 'visits'),
      ],
      duplicates: 'fill gaps',
    },
    ...more,
  ],
  consent: {
    ...skyLetterRoute(sourceId, connectionId).consent,
    mode: 'single',
    purpose: 'school visits',
    tickField: '',
  },
});

/** What the box office at the gate hands on: its orders, by JSON. People there give a number, and some an address. */
export const ordersSource = (): PostsDocument => ({
  format: SOURCE_FORMAT,
  kind: 'posts',
  fields: [
    { ...field('phone', 'Phone', 'phone', { required: true, keepAs: 'phone' }), path: '$.customer.phone' },
    { ...field('email', 'Email', 'email', { keepAs: 'email' }), path: '$.customer.email' },
    { ...field('who', 'Name', 'person name', { keepAs: 'full_name' }), path: '$.customer.name' },
    { ...field('evening', 'Evening', 'date'), path: '$.evening' },
    { ...field('items', 'Tickets', 'list of records', { required: true }), path: '$.items' },
    { ...field('total', 'Total', 'money'), path: '$.total' },
    { ...field('group', 'Comes as a group', 'yes/no'), path: '$.group' },
  ],
  statement: 'By ordering you agree that we call you about your evening.',
  each: '',
});

/** Groups are called back; the front desk hears of every order. */
export const ordersRoute = (
  sourceId: string,
  { capstan, bellbuoy }: { capstan: string; bellbuoy: string },
): RouteDocument => ({
  ...schoolRoute(sourceId, ''),
  targets: [
    {
      ...plainTarget(capstan, 'callback', [
        line('telephone', 'phone'),
        line('called', 'who'),
        text('note', '{items}\non {evening}, {total}'),
      ]),
      when: { kind: 'all', of: [{ kind: 'test', id: 'group', field: 'group', test: 'is', value: 'yes' }] },
    },
    plainTarget(bellbuoy, '', [text('text', 'Tickets for {evening}: {items}\n{who}, {phone}. {total}')]),
  ],
  consent: { ...schoolRoute(sourceId, '').consent, purpose: 'calls about an evening' },
});
