/** What the interface asks the server about. Whatever changes something says which of these are asked for anew. */
export type Subject =
  | 'arrivals'
  | 'changes'
  | 'connections'
  | 'conversations'
  | 'deliveries'
  | 'held'
  | 'imports'
  | 'insight'
  | 'offers'
  | 'open-sessions'
  | 'organisation'
  | 'overview'
  | 'own-files'
  | 'pages-of'
  | 'people'
  | 'profile'
  | 'profiles'
  | 'purposes'
  | 'rehearsal'
  | 'routes'
  | 'samples'
  | 'session'
  | 'session-state'
  | 'set-aside'
  | 'shape'
  | 'shops'
  | 'silence'
  | 'sources'
  | 'status'
  | 'submissions'
  | 'themes'
  | 'tokens'
  | 'trail'
  | 'trials'
  | 'variants'
  | 'ways';

/** The key of one question: its subject, and what of it. Everything of a subject can be asked for anew at once. */
export const keyOf = <Parts extends unknown[]>(subject: Subject, ...parts: Parts): readonly [Subject, ...Parts] => [
  subject,
  ...parts,
];
