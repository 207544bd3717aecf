/** Who does something: a person who is signed in, another program by its token, or Iwashi by itself. */
export type ActorKind = 'person' | 'token' | 'iwashi';

/** What can be done here, each as it is said of whoever did it. */
export const ACTS = {
  made: 'made',
  imported: 'imported',
  edited: 'edited',
  renamed: 'renamed',
  moved: 'moved',
  published: 'published',
  'rehearsed live': 'sent a test person through',
  'sends what is there': 'sent what was there through',
  'paused the sending': 'paused the sending of what was there through',
  'resumed the sending': 'resumed the sending of what was there through',
  'cancelled the sending': 'cancelled the sending of what was there through',
  paused: 'paused',
  resumed: 'resumed',
  removed: 'removed',
  archived: 'archived',
  restored: 'restored',
  connected: 'added',
  'changed access': 'changed the access of',
  verified: 'verified',
  'asked for access': 'asked for access to',
  granted: 'was granted access to',
  'listens there': 'asked for notices from',
  'stopped listening': 'stopped the notices from',
  'made there': 'made something in',
  released: 'released',
  'set the secret': 'set the secret of',
  'ended the secret of before': 'ended the old secret of',
  'sent again': 'had taken what came to',
  'brought a file': 'brought a file to',
  'set the feed of': 'said how files come by themselves to',
  'ended the feed of': 'had no more files come by themselves to',
  'took over': 'took over a conversation of',
  'ended a conversation of': 'ended a conversation of',
  'fetched customers': 'fetched the customers of',
  'read the check-out': 'read the check-out of',
  'had read anew': 'had a file read anew of',
  'rehearsed the file of': 'rehearsed a file of',
  'began to import into': 'began an import into',
  'paused the import into': 'paused an import into',
  'resumed the import into': 'resumed an import into',
  'cancelled the import into': 'cancelled an import into',
  'cancelled the rehearsal for': 'cancelled a rehearsal for',
  'undid the import into': 'undid an import into',
  'deleted a file of': 'deleted a file of',
  answered: 'noted an answer to',
  'tried again': 'retried',
  'planned anew': 'planned again',
  'marked as arrived': 'noted the arrival of',
  dropped: 'dropped',
  'asked to confirm': 'sent a confirmation for',
  'acted on all held': 'acted on everything held at',
  'changed there': 'changed what another system holds of',
  'changed the password': 'changed the password of',
  'signed out': 'signed out elsewhere',
  merged: 'merged',
  split: 'split',
} as const;
export type ActName = keyof typeof ACTS;

/** What something is done to, and what it is called. */
export const SUBJECTS = {
  source: 'the source',
  route: 'the route',
  connection: 'the connection',
  profile: 'the profile',
  token: 'the token',
  purpose: 'the purpose',
  theme: 'the theme',
  file: 'the file',
  organisation: 'the organisation',
  account: 'the account',
  submission: 'a submission',
  delivery: 'a delivery',
  mail: 'a mail',
  person: 'a person',
} as const;
export type SubjectKind = keyof typeof SUBJECTS;
export const SUBJECT_KINDS = Object.keys(SUBJECTS) as SubjectKind[];

/** One thing that somebody did. */
export interface ChangeView {
  id: string;
  at: string;
  actor: { kind: ActorKind; name: string };
  act: ActName;
  subject: {
    kind: SubjectKind;
    id: string;
    /** As it was called then; '' for what has no name. */
    name: string;
    /** Where it is looked at in the interface; '' for nowhere. */
    link: string;
  };
  /** More of it, such as a reason or a version; '' for nothing. */
  detail: string;
}
