import { plainField, type SourceField } from '../values/index.ts';
import { IN_ONE_PLACE } from './membershipPaths.ts';
import { SOURCE_FORMAT, type RegistrationDocument } from './source.ts';
import { ALL_EVENTS, PLAIN_WEBHOOK } from './webhookParts.ts';

const field = (
  key: string,
  label: string,
  type: SourceField['type'],
  path: string,
  more: Partial<SourceField> = {},
): SourceField => ({ ...plainField(key, type), label, path, ...more });

/** What a source of registrations starts as: what sites tell of their members, wherever it stands there. */
export const NEW_REGISTRATION: RegistrationDocument = {
  format: SOURCE_FORMAT,
  kind: 'registration',
  fields: [
    field('email', 'Email', 'email', '$.member.email', { required: true, keepAs: 'email' }),
    field('first_name', 'First name', 'text', '$.member.name.given', { keepAs: 'first_name' }),
    field('last_name', 'Last name', 'text', '$.member.name.family', { keepAs: 'last_name' }),
    field('membership', 'Membership', 'membership', '$.membership', { keepAs: 'membership' }),
    field('agrees_email', 'Agrees to mails', 'yes/no', '$.agrees.says'),
    field('agreed_words_email', 'Words of the box', 'text', '$.agrees.words'),
    field('said_at_email', 'When they said it', 'date-time', '$.agrees.at'),
    field('event', 'What happened', 'text', '$.type'),
    field('test', 'Whether it was a test', 'yes/no', '$.test'),
  ],
  statement: '',
  trust: 'usual',
  each: '',
  ...PLAIN_WEBHOOK,
  events: { ...ALL_EVENTS, path: '$.type' },
  idPath: '$.id',
  answers: [{ channel: 'email', field: 'agrees_email', words: 'agreed_words_email', at: 'said_at_email' }],
  saidBy: ['agreement.changed'],
  kindField: 'event',
  testField: 'test',
  membershipField: 'membership',
  membershipPaths: IN_ONE_PLACE,
  zone: 'UTC',
  lapsedKind: 'membership.lapsed',
};
