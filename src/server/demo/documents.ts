import { PLAIN_LOOK, saying, type Look } from '../../core/forms/index.ts';
import { PLAIN_SHOWING } from '../../core/showing/index.ts';
import {
  PLAIN_WEBHOOK,
  plainFace,
  SOURCE_FORMAT,
  type FormDocument,
  type PostsDocument,
  NEW_REGISTRATION,
  type RegistrationDocument,
} from '../../core/intake/index.ts';
import {
  chainOf,
  fieldsUsed,
  lineId,
  plainLine,
  READY,
  type MapLine,
  type ToldStep,
} from '../../core/mapping/index.ts';
import type { Condition } from '../../core/conditions/index.ts';
import { ROUTE_FORMAT, type RouteDocument, type Target, type TargetTag } from '../../core/plan/index.ts';
import type { PurposeDraft } from '../../core/consent/index.ts';
import { plainField, type SourceField } from '../../core/values/index.ts';

export const field = (
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

/** Who asks, as people know it. */
export const NAMES = ['Pellam Ridge Observatory'];

/** What people consent to, here: a route names each by its name until it is made. */
export const PURPOSES = {
  letter: {
    name: 'Sky letter',
    wordings: [
      'Yes, send me the Sky letter of Pellam Ridge Observatory once a month. I can leave at any time.',
      'Yes, send me the Sky letter by email.',
      'Yes, send me the Sky letter and what members are told first.',
    ],
    channels: ['email'],
  },
  visits: {
    name: 'School visits',
    wordings: ['By sending this you agree that Pellam Ridge Observatory writes to you about your visit.'],
    channels: ['email'],
  },
  texts: {
    name: 'Short notice by text message',
    wordings: ['Yes, text me when an evening is cancelled or added.'],
    channels: ['sms'],
  },
  calls: {
    name: 'Calls about an evening',
    wordings: ['By ordering you agree that Pellam Ridge Observatory calls you about your evening.'],
    channels: ['phone', 'sms'],
  },
} satisfies Record<string, PurposeDraft>;

/** A route that names its purposes by their ids. @param idOf the id of a purpose by its name */
export const withPurposes = (route: RouteDocument, idOf: (name: string) => string): RouteDocument => ({
  ...route,
  consent: {
    ...route.consent,
    asks: route.consent.asks.map((ask) => ({ ...ask, purpose: idOf(ask.purpose) })),
  },
});

const BY_EMAIL = { ask: 'a1', channel: 'email' } as const;

const LETTER_FIELDS = [
  field('name', 'Your name', 'text', { required: true, keepAs: 'full_name' }),
  field('email', 'Email', 'email', { required: true, keepAs: 'email' }),
  field('interests', 'What do you like best?', 'several choices', { options: INTERESTS, keepAs: 'interests' }),
  field('telescope', 'I have a telescope', 'yes/no', { keepAs: 'telescope' }),
  field('consent', PURPOSES.letter.wordings[0] ?? '', 'yes/no', {
    required: true,
  }),
  field('page', 'Page', 'text', { widget: 'hidden', preset: 'sky-letter' }),
];

/** The form of the Sky letter page. */
export const skyLetterForm = (siteUrl: string): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(LETTER_FIELDS),
  fields: LETTER_FIELDS,
  button: 'Send me the Sky letter',
  resetLabel: '',
  statement: '',
  trust: 'usual',
  ending: saying(
    'Unless you confirmed before, a mail is on its way. Please look into your mailbox and confirm your address.',
    {
      next: `${siteUrl}/thank-you`,
    },
  ),
  origins: [siteUrl],
  minimumSeconds: 2,
});

const line = (to: string, source: string, ...steps: ToldStep[]): MapLine =>
  plainLine({ id: lineId(to), to, from: { kind: 'field', field: source }, steps: chainOf(...steps) });

const text = (to: string, words: string): MapLine =>
  plainLine({ id: lineId(to), to, from: { kind: 'text', text: words } });

/** A tag for those who like something best. */
const byInterest = (answer: string, tag: string): TargetTag => ({
  id: `tag-${tag}`,
  tag,
  when: { kind: 'test', id: `likes-${tag}`, field: 'interests', test: 'is', value: answer },
});

/** A target that has neither lists nor tags. */
const plainTarget = (connectionId: string, kind: string, lines: MapLine[], list = ''): Target => ({
  id: `to-${kind || connectionId}`.slice(0, 40),
  when: null,
  branch: null,
  // What people send a form for needs no further consent; what goes on from it does.
  needs: null,
  connectionId,
  kind,
  places: list === '' ? [] : [{ id: 'p1', list, group: '', when: null }],
  tags: [],
  leaves: [],
  tagsOff: [],
  lines,
  duplicates: 'add',
});

export const signUpsTarget = (connectionId: string): Target => ({
  ...plainTarget(connectionId, 'signups', [
    line('Email', 'email', READY.trim, READY.lowerCase),
    line('Name', 'name', READY.trim),
    text('Source', 'Sky letter, page {page}'),
  ]),
  needs: BY_EMAIL,
});

export const enquiryTarget = (connectionId: string): Target =>
  plainTarget(
    connectionId,
    'enquiry',
    [
      line('mail', 'email', READY.trim, READY.lowerCase),
      text('subject', 'Visit of {school}'),
      line('heads', 'pupils', READY.trim),
      text('note', 'From {first} {last}. Has been here: {visits}.'),
    ],
    'S1',
  );

export const bellTarget = (connectionId: string): Target =>
  plainTarget(connectionId, '', [
    text('text', '{school} would like to come, with {pupils} pupils.\nPlease answer {first} {last}, {email}.'),
  ]);

export const skyLetterRoute = (sourceId: string, connectionId: string, more: Target[] = []): RouteDocument => ({
  format: ROUTE_FORMAT,
  sourceIds: [sourceId],
  targets: [
    {
      id: 'letter',
      when: null,
      branch: null,
      needs: BY_EMAIL,
      connectionId,
      kind: '',
      places: [{ id: 'p1', list: 'L-100', group: 'G-110', when: null }],
      tags: [
        { id: 'all', tag: 'newsletter', when: null },
        byInterest('The Moon and planets', 'planets'),
        byInterest('Stargazing with the eye', 'stargazing'),
        byInterest('Taking pictures', 'astrophotography'),
        byInterest('Evenings for families', 'families'),
      ],
      leaves: [],
      tagsOff: [],
      lines: [
        line('email', 'email', READY.trim, READY.lowerCase),
        line('given', 'name', READY.firstNames),
        line('family', 'name', READY.lastName),
        line('signup_page', 'page', READY.trim),
        line('has_telescope', 'telescope', READY.oneOrZero),
      ],
      duplicates: 'update',
    },
    ...more,
  ],
  consent: {
    asks: [{ id: BY_EMAIL.ask, purpose: PURPOSES.letter.name, channels: ['email'], tickField: 'consent' }],
    confirmedBy: { by: 'iwashi' },
    mail: {
      subject: 'One more click for the Sky letter',
      body: 'Hello,\n\nsomebody, most likely you, asked for the Sky letter of Pellam Ridge Observatory with this address. Please confirm it:\n\n{link}\n\nIf it was not you, do nothing, and we will not write again.\n\nClear skies,\nPellam Ridge Observatory',
      button: 'Yes, send me the Sky letter',
    },
    expiresHours: 72,
    changes: 'ask',
  },
  mails: [],
  accepted: {},
});

/**
 * What becomes of those who buy in the shop: who agreed to the letter at the check-out is in its list, with a tag for what they bought;
 * everybody is a customer of the front office, whatever they agreed to.
 */
export const shopRoute = (
  sourceId: string,
  { ternPost, capstan = '' }: { ternPost: string; capstan?: string },
): RouteDocument => {
  const letter = skyLetterRoute(sourceId, ternPost);
  const bought = (words: string, tag: string): TargetTag => ({
    id: `bought-${tag}`,
    tag,
    when: { kind: 'test', id: `has-${tag}`, field: 'items', test: 'contains', value: words },
  });
  return {
    ...letter,
    targets: [
      ...letter.targets.map((target) => ({
        ...target,
        places: [{ id: 'p1', list: 'L-100', group: 'G-120', when: null }],
        tags: [bought('Star chart', 'stargazing'), bought('Binoculars', 'astrophotography')],
        lines: [
          line('email', 'email', READY.trim, READY.lowerCase),
          line('given', 'first_name', READY.trim),
          line('family', 'last_name', READY.trim),
          text('signup_page', 'Observatory shop'),
        ],
      })),
      ...(capstan === ''
        ? []
        : [
            {
              ...plainTarget(capstan, 'person', [
                line('mail', 'email', READY.trim, READY.lowerCase),
                text('called', '{first_name} {last_name}'),
                text('came_by', 'shop'),
              ]),
              duplicates: 'update' as const,
            },
          ]),
    ],
    consent: {
      ...letter.consent,
      asks: [
        { id: BY_EMAIL.ask, purpose: PURPOSES.letter.name, channels: ['email'], tickField: 'agrees_email' },
        { id: 'a2', purpose: PURPOSES.texts.name, channels: ['sms'], tickField: 'agrees_sms' },
      ],
      // The shop shows who it is: nobody is asked for each order whether it was theirs.
      changes: 'at once',
    },
  };
};

/** What the site tells of its members. */
export const membersSource = (): RegistrationDocument => ({
  ...NEW_REGISTRATION,
  fields: NEW_REGISTRATION.fields.map((one) =>
    one.id === 'agrees_email' ? { ...one, label: PURPOSES.letter.wordings[2] ?? '' } : one,
  ),
  proof: { ...NEW_REGISTRATION.proof, by: 'standard webhooks' },
});

/** What the mailing lists have of members: whether somebody is one, and a tag for each level. */
export const MEMBER_FIELD = 'member';

/**
 * What becomes of the site's members who want its letter: they are in the members' group with a flag for everybody and a tag for their
 * level alone; whoever is a member no more loses all of it, and keeps the letter.
 */
export const membersRoute = (sourceId: string, ternPost: string): RouteDocument => {
  const letter = skyLetterRoute(sourceId, ternPost);
  const when = (...tests: Condition[]): Condition => ({ kind: 'all', of: tests });
  const inForce = (id: string): Condition => ({
    kind: 'test',
    id,
    field: 'membership',
    test: 'is in force',
    value: '',
  });
  const level = (id: string, value: string): Condition => ({
    kind: 'test',
    id,
    field: 'membership',
    test: 'is of the level',
    value,
  });
  const target = (id: string, more: Partial<Target>): Target[] =>
    letter.targets.map((one) => ({
      ...one,
      id,
      tags: [],
      lines: [
        line('email', 'email', READY.trim, READY.lowerCase),
        line('given', 'first_name', READY.trim),
        line('family', 'last_name', READY.trim),
        line(MEMBER_FIELD, 'membership', READY.inForce, READY.oneOrZero),
      ],
      branch: 'by level',
      ...more,
    }));
  const MEMBERS = { list: 'L-100', group: 'G-130' };
  const tag = (name: string): TargetTag => ({ id: `tag-${name}`, tag: name, when: null });
  return {
    ...letter,
    targets: [
      ...target('patrons', {
        when: when(inForce('f1'), level('l1', 'Patron')),
        places: [{ id: 'p1', ...MEMBERS, when: null }],
        tags: [tag('patron')],
        tagsOff: ['friend'],
      }),
      ...target('friends', {
        when: when(inForce('f2'), level('l2', 'Friend')),
        places: [{ id: 'p1', ...MEMBERS, when: null }],
        tags: [tag('friend')],
        tagsOff: ['patron'],
      }),
      ...target('others', {
        places: [{ id: 'p1', list: 'L-100', group: '', when: null }],
        leaves: [MEMBERS],
        tagsOff: ['patron', 'friend'],
      }),
    ],
    consent: {
      ...letter.consent,
      asks: [{ id: BY_EMAIL.ask, purpose: PURPOSES.letter.name, channels: ['email'], tickField: 'agrees_email' }],
      // The site shows who it is: what it tells of its members is so.
      changes: 'at once',
    },
  };
};

const SCHOOL_FIELDS = [
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
];

/** What the observatory's forms look like: as its site does. */
export const NIGHT_SKY: Look = {
  ...PLAIN_LOOK,
  colours: {
    action: '#263a6b',
    onAction: '#ffffff',
    ink: '#1c2233',
    quiet: '#55524a',
    ground: '#ffffff',
    line: '#7d7a70',
    wrong: '#9c1c1c',
    fade: '',
    hover: '',
  },
  radius: 6,
};

const shortFields = (label: string): SourceField[] => [
  field('name', 'Your name', 'text', { required: true, keepAs: 'full_name', width: 'half' }),
  field('email', 'Email', 'email', { required: true, keepAs: 'email', width: 'half' }),
  field('consent', label, 'yes/no', { required: true }),
];

export const shortForm = (siteUrl: string, face: Partial<FormDocument>): FormDocument => {
  const fields = shortFields(PURPOSES.letter.wordings[0] ?? '');
  return {
    format: SOURCE_FORMAT,
    kind: 'form',
    ...plainFace(fields),
    look: NIGHT_SKY,
    fields,
    button: 'Send me the Sky letter',
    resetLabel: '',
    statement: '',
    trust: 'usual',
    ending: saying(
      'Unless you confirmed before, a mail is on its way. Please look into your mailbox and confirm your address.',
    ),
    origins: [siteUrl],
    minimumSeconds: 2,
    ...face,
  };
};

/** What stands under every story of the site. */
export const storyForm = (siteUrl: string): FormDocument =>
  shortForm(siteUrl, {
    title: 'One such story a month?',
    look: { ...NIGHT_SKY, framed: true, buttonWidth: 'full' },
    showing: { ...PLAIN_SHOWING, pages: ['/stories/*'], placeAt: 'article.story' },
  });

/** What comes over the page of evenings. */
export const eveningPopUp = (siteUrl: string): FormDocument => {
  const form = shortForm(siteUrl, {
    title: 'Is Friday going to be clear?',
    presentation: 'pop-up',
    showing: {
      ...PLAIN_SHOWING,
      triggers: [
        { kind: 'after', seconds: 6 },
        { kind: 'leaving', sensitivity: 'late' },
      ],
      pages: ['/evenings'],
      entrance: 'slide',
    },
  });
  return {
    ...form,
    items: [
      {
        kind: 'text',
        id: 'text-1',
        shownIf: null,
        text: 'The Sky letter says in time which evenings are worth the walk.',
      },
      ...form.items,
    ],
  };
};

/** What schools that come to visit are handed out. */
export const WHAT_TO_BRING = `Your evening at Pellam Ridge Observatory

Bring
- warm coats and hats, also in June: the dome is open to the sky
- a torch with a red cover, one for five children
- something to drink that is warm

Leave at home
- white torches, and telephones that light up

We begin at dusk, and ring the bell when the first star is seen.
`;

/** The form by which schools ask for a visit. */
export const schoolForm = (): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(SCHOOL_FIELDS),
  title: 'Bring your class to the stars',
  fields: SCHOOL_FIELDS,
  button: 'Ask for a visit',
  resetLabel: '',
  statement: PURPOSES.visits.wordings[0] ?? '',
  trust: 'usual',
  ending: saying('Thank you. We will write to you within two days.'),
  origins: [],
  minimumSeconds: 2,
});

/** The route of forms that ask for a name and an address alone. */
export function shortRoute(sourceIds: string[], connectionId: string): RouteDocument {
  const route = skyLetterRoute('', connectionId);
  const given = new Set(['name', 'email', 'consent']);
  const targets = route.targets.map((target) => ({
    ...target,
    lines: target.lines.filter((one) => fieldsUsed(one).every((id) => given.has(id))),
    tags: target.tags.filter(({ when }) => when === null),
  }));
  return { ...route, sourceIds, targets };
}

export const schoolRoute = (sourceId: string, connectionId: string, more: Target[] = []): RouteDocument => ({
  format: ROUTE_FORMAT,
  sourceIds: [sourceId],
  targets: [
    {
      id: 'letter',
      when: null,
      branch: null,
      needs: BY_EMAIL,
      connectionId,
      kind: '',
      places: [{ id: 'p1', list: 'L-200', group: 'G-210', when: null }],
      tags: [],
      leaves: [],
      tagsOff: [],
      lines: [
        line('email', 'email', READY.trim, READY.lowerCase),
        line('given', 'first', READY.trim),
        line('family', 'last', READY.trim),
        line('visits', 'visits'),
      ],
      duplicates: 'fill gaps',
    },
    ...more,
  ],
  consent: {
    ...skyLetterRoute(sourceId, connectionId).consent,
    asks: [{ id: BY_EMAIL.ask, purpose: PURPOSES.visits.name, channels: ['email'], tickField: '' }],
    confirmedBy: { by: 'nobody' },
  },
  mails: [
    {
      id: 'front-desk',
      kind: 'notify',
      when: null,
      to: ['front-desk@pellam-ridge.example'],
      after: 'now',
      subject: 'School visit: {school}',
      body: '{first} {last} of {school} asks for a visit with {pupils} pupils.\n\n{@answers}\n\nAn answer to this mail goes to {email}.',
    },
    {
      id: 'thanks',
      kind: 'answer',
      when: null,
      to: [],
      after: 'now',
      subject: 'Your visit to Pellam Ridge Observatory',
      body: 'Dear {first} {last},\n\nthank you for asking about a visit of {school}. We look at the calendar, and write to you within two days.\n\nClear skies,\nPellam Ridge Observatory',
    },
  ],
  accepted: {},
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
  statement: PURPOSES.calls.wordings[0] ?? '',
  trust: 'usual',
  each: '',
  ...PLAIN_WEBHOOK,
  proof: { ...PLAIN_WEBHOOK.proof, by: 'standard webhooks' },
  idPath: '$.order',
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
      needs: { ask: 'call', channel: 'phone' },
    },
    plainTarget(bellbuoy, '', [text('text', 'Tickets for {evening}: {items}\n{who}, {phone}. {total}')]),
  ],
  consent: {
    ...schoolRoute(sourceId, '').consent,
    asks: [{ id: 'call', purpose: PURPOSES.calls.name, channels: ['phone'], tickField: '' }],
  },
  mails: [],
  accepted: {},
});
