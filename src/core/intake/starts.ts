import { PLAIN_LOOK, saying } from '../forms/index.ts';
import { plainField, type SourceField } from '../values/index.ts';
import { plainFace, SOURCE_FORMAT, type FormDocument } from './source.ts';

/** A form to begin with: everything in it can be changed. */
export interface Start {
  id: string;
  name: string;
  /** What it is for. */
  help: string;
  document: FormDocument;
}

const field = (
  key: string,
  type: SourceField['type'],
  label: string,
  more: Partial<SourceField> = {},
): SourceField => ({
  ...plainField(key, type),
  label,
  ...more,
});

const EMAIL = field('email', 'email', 'Email', { required: true, keepAs: 'email' });
const NAME = field('name', 'person name', 'Your name', { required: true, keepAs: 'full_name' });
const CONSENT = field('consent', 'yes/no', 'Yes, write to me about this. I can leave at any time.', { required: true });
const NEWS = field('news', 'yes/no', 'Yes, also send me your newsletter. I can leave at any time.');

const form = (
  fields: SourceField[],
  face: Partial<FormDocument> & Pick<FormDocument, 'title' | 'button'>,
): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(fields),
  fields,
  resetLabel: '',
  statement: '',
  trust: 'usual',
  // Our own words, which say what is so: a mail that asks to confirm comes where a route sends one.
  ending: saying(''),
  origins: [],
  minimumSeconds: 2,
  ...face,
});

const start = (id: string, name: string, help: string, document: FormDocument): Start => ({ id, name, help, document });

/** What a form begins with where nothing else is chosen: the shortest that makes sense. */
export const FIRST_START: Start = start(
  'newsletter',
  'Newsletter',
  'An address and a tick: nothing keeps people from signing up.',
  form([EMAIL, { ...CONSENT, label: 'Yes, send me the newsletter. I can leave it at any time.' }], {
    title: 'Get our newsletter',
    button: 'Sign up',
  }),
);

/** What a new form can begin with. */
export const STARTS: Start[] = [
  FIRST_START,
  start(
    'waiting list',
    'Waiting list',
    'Who wants to know first, and what they are waiting for.',
    form(
      [
        EMAIL,
        field('wants', 'choice', 'What are you waiting for?', {
          widget: 'buttons',
          options: ['The next date', 'A free place', 'Something new'],
          keepAs: 'wants',
        }),
        CONSENT,
      ],
      {
        title: 'Be the first to know',
        button: 'Put me on the list',
        ending: saying('You will hear from us before anybody else.'),
      },
    ),
  ),
  start(
    'quote',
    'Quote request',
    'With the questions that tell serious enquiries from others.',
    form(
      [
        NAME,
        EMAIL,
        field('phone', 'phone', 'Phone', { keepAs: 'phone', width: 'half' }),
        field('company', 'text', 'Organisation', { keepAs: 'company', width: 'half' }),
        field('budget', 'choice', 'What may it cost?', {
          required: true,
          width: 'half',
          options: ['up to 1,000', '1,000 to 5,000', '5,000 to 20,000', 'more'],
        }),
        field('when', 'choice', 'When do you need it?', {
          required: true,
          width: 'half',
          options: ['this month', 'within three months', 'later', 'just looking'],
        }),
        field('need', 'long text', 'What do you need?', { required: true }),
      ],
      {
        title: 'Ask for a quote',
        button: 'Send the request',
        statement: 'By sending this you agree that we write to you about your request.',
        ending: saying('We read every request, and answer within two working days.'),
      },
    ),
  ),
  start(
    'booking',
    'Booking enquiry',
    'When, for how many, and what to know beforehand.',
    form(
      [
        NAME,
        EMAIL,
        field('day', 'date', 'Which day?', { required: true, width: 'third' }),
        field('time', 'time', 'From when?', { width: 'third' }),
        field('people', 'number', 'For how many?', { required: true, width: 'third' }),
        field('notes', 'long text', 'Anything we should know?'),
      ],
      {
        title: 'Ask for a date',
        button: 'Ask for this date',
        statement: 'By sending this you agree that we write to you about your booking.',
        ending: saying('Nothing is booked yet: we look at the calendar and write to you.'),
      },
    ),
  ),
  start(
    'download',
    'Content download',
    'Something to read for an address; the newsletter is a choice of its own.',
    form(
      [
        field('first_name', 'text', 'First name', { keepAs: 'first_name', width: 'half' }),
        { ...EMAIL, width: 'half' },
        NEWS,
      ],
      {
        title: 'Get the guide',
        button: 'Send it to me',
        statement: 'We use your address to send you the guide, and for nothing else unless you say so.',
      },
    ),
  ),
  start(
    'segmentation',
    'Two questions',
    'What somebody is interested in, and how far they are: each answer can be a tag.',
    form(
      [
        field('interest', 'several choices', 'What interests you?', {
          required: true,
          options: ['Beginning', 'Going deeper', 'Events', 'For families'],
          keepAs: 'interests',
        }),
        field('stage', 'choice', 'Where are you now?', {
          widget: 'buttons',
          required: true,
          options: ['Just starting', 'On my way', 'An old hand'],
          keepAs: 'stage',
        }),
        EMAIL,
        CONSENT,
      ],
      {
        title: 'Tell us what fits you',
        button: 'Show me what fits',
        ending: saying('From now on you get what fits you.'),
      },
    ),
  ),
  start(
    'feedback',
    'Feedback',
    'Stars, a scale and a few words; the address is left to them.',
    form(
      [
        field('stars', 'number', 'How did you like it?', { widget: 'stars', required: true }),
        field('again', 'number', 'How likely are you to come again?', {
          widget: 'scale',
          range: { from: 0, to: 10, low: 'not at all', high: 'for certain' },
        }),
        field('words', 'long text', 'What should we keep, and what should we change?'),
        { ...EMAIL, required: false, help: 'Only if you would like an answer.' },
      ],
      { title: 'How was it?', button: 'Send', ending: saying('We read all of it.') },
    ),
  ),
  start(
    'referral',
    'Referral',
    'Somebody recommends you; the friend is not signed up for anything.',
    form(
      [
        { ...NAME, label: 'Your name' },
        { ...EMAIL, label: 'Your email' },
        field('friend_name', 'text', "Your friend's name", { required: true, width: 'half' }),
        field('friend_email', 'email', "Your friend's email", {
          width: 'half',
          help: 'We write once, and say that it was you.',
        }),
        field('why', 'long text', 'What would you like to tell them?'),
      ],
      {
        title: 'Tell a friend',
        button: 'Recommend us',
        statement: 'By sending this you agree that we write to you about your recommendation.',
        ending: saying('That is kind of you.'),
      },
    ),
  ),
  start(
    'event',
    'Event registration',
    'Who comes to what, and with how many.',
    form(
      [
        NAME,
        EMAIL,
        field('event', 'choice', 'What would you like to come to?', {
          widget: 'buttons',
          required: true,
          options: ['The first date', 'The second date'],
        }),
        field('seats', 'number', 'How many come?', { required: true, width: 'half' }),
        field('needs', 'text', 'What do you need?', { width: 'half', help: 'Such as a step-free way in.' }),
        NEWS,
      ],
      {
        title: 'Come along',
        button: 'Register',
        look: { ...PLAIN_LOOK, framed: true },
        statement: 'By sending this you agree that we write to you about this event.',
        ending: saying('Your places are noted.'),
      },
    ),
  ),
];
