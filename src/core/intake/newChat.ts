import { FINISHED_FIELD, type ChatPart } from '../chat/index.ts';
import { PLAIN_LOOK } from '../forms/index.ts';
import { PLAIN_SHOWING } from '../showing/index.ts';
import { plainField, type SourceField } from '../values/index.ts';
import { SOURCE_FORMAT, type ChatDocument } from './source.ts';

const FIELDS: SourceField[] = [
  { ...plainField('topic', 'choice'), label: 'What brings you here?', options: ['I have a question', 'Write to me'] },
  { ...plainField('question', 'long text'), label: 'What would you like to know?' },
  { ...plainField('email', 'email'), label: 'Where can we write to you?', keepAs: 'email' },
  { ...plainField('letter', 'yes/no'), label: 'Yes, write to me by email. I can stop it at any time.' },
  { ...plainField(FINISHED_FIELD, 'yes/no'), label: 'Came to its end' },
];

const PARTS: ChatPart[] = [
  {
    id: 'welcome',
    name: 'Welcome',
    steps: [
      {
        id: 'topic',
        kind: 'choose',
        text: 'Hello! What brings you here?',
        field: 'topic',
        choices: [
          { label: 'I have a question', to: '' },
          { label: 'Write to me', to: 'letter' },
        ],
      },
      { id: 'question', kind: 'ask', text: 'What would you like to know?', field: 'question', otherwise: '' },
      { id: 'on', kind: 'jump', to: 'letter' },
    ],
  },
  {
    id: 'letter',
    name: 'Address',
    steps: [
      { id: 'email', kind: 'ask', text: 'Where can we write to you?', field: 'email', otherwise: '' },
      { id: 'agrees', kind: 'consent', text: 'May we write to you from time to time?', field: 'letter' },
      { id: 'bye', kind: 'end', text: 'Thank you!', link: '', linkText: '' },
    ],
  },
];

/** What a chat begins with. */
export const NEW_CHAT: ChatDocument = {
  format: SOURCE_FORMAT,
  kind: 'chat',
  fields: FIELDS,
  statement: '',
  trust: 'usual',
  parts: PARTS,
  unfinished: 'keep',
  breaksOffMinutes: 30,
  title: 'Ask us',
  launcher: 'Ask us',
  language: 'visitor',
  look: PLAIN_LOOK,
  origins: [],
  showing: { ...PLAIN_SHOWING, triggers: [] },
  variants: [],
  goal: 'completed',
  goalPage: '',
};
