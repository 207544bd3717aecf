/** By what it is known who sends to an address. */
export const PROOFS = ['nothing', 'path', 'bearer', 'basic', 'header', 'standard webhooks', 'signature'] as const;

/** How whoever sends shows that they know the secret. What is of no use to a way is ''. */
export interface Proof {
  by: (typeof PROOFS)[number];
  /** The user name of basic authentication. */
  user: string;
  /** The header that holds the secret, or the signature. */
  header: string;
  /** What is signed: {body}, {time}, and whatever stands between them. */
  canonical: string;
  hash: (typeof HASHES)[number];
  encoding: (typeof ENCODINGS)[number];
  /** What stands before a signature, such as sha256=. */
  prefix: string;
  /** The header that says when it was signed, in seconds since 1970; '' where none does, and an old one may be sent again. */
  timeHeader: string;
}

export const HASHES = ['sha256', 'sha512', 'sha1'] as const;
export const ENCODINGS = ['hex', 'base64'] as const;

export const NO_PROOF: Proof = {
  by: 'nothing',
  user: '',
  header: '',
  canonical: '{body}',
  hash: 'sha256',
  encoding: 'hex',
  prefix: '',
  timeHeader: '',
};

export type EventAct = 'take' | 'ignore';
export const EVENT_ACTS: EventAct[] = ['take', 'ignore'];

/** Which of several kinds of events at one address are taken. */
export interface EventKinds {
  /** A JSONPath to the kind; '' where all that comes is of one kind. */
  path: string;
  known: { kind: string; act: EventAct }[];
  /** What becomes of kinds that are not named. */
  others: EventAct;
}

export const ALL_EVENTS: EventKinds = { path: '', known: [], others: 'take' };

/** What whoever sends is told once it is kept. */
export interface WebhookAnswer {
  status: (typeof ANSWER_STATUSES)[number];
  /** '' for what became of it, as JSON. */
  body: string;
  mediaType: string;
}

export const ANSWER_STATUSES = [202, 200, 201, 204] as const;
export const OWN_ANSWER: WebhookAnswer = { status: 202, body: '', mediaType: 'text/plain' };

/** What an address is asked before anything is sent to it, and says back to show that it is meant. */
export interface Challenge {
  by: 'nothing' | 'query' | 'body';
  /** A name in the address's query, or a JSONPath in the body. */
  name: string;
}

export const CHALLENGES: Challenge['by'][] = ['nothing', 'query', 'body'];
export const NO_CHALLENGE: Challenge = { by: 'nothing', name: '' };

/** What a document says of an address for posts beside its fields. */
export interface WebhookParts {
  proof: Proof;
  /** A JSONPath to what tells a message from its repetition; '' where only the same content in ten minutes does. */
  idPath: string;
  events: EventKinds;
  answer: WebhookAnswer;
  challenge: Challenge;
}

export const PLAIN_WEBHOOK: WebhookParts = {
  proof: NO_PROOF,
  idPath: '',
  events: ALL_EVENTS,
  answer: OWN_ANSWER,
  challenge: NO_CHALLENGE,
};
