import { dequal } from 'dequal';
import type { Compared, Ending, EndingIf } from '../forms/index.ts';
import type { Showing } from '../showing/index.ts';
import type {
  ChatDocument,
  FileDocument,
  FormDocument,
  MadeDocument,
  PostsDocument,
  RegistrationDocument,
  ShopDocument,
} from './source.ts';

/** How a part of a source other than its fields differs from what is live, as visitors, pages and routes will notice it. */
export interface PartChange {
  /** What it is, as it is called on the screen. */
  what: string;
  /** What it was, and what it becomes; both '' where that is no sentence. */
  before: string;
  after: string;
}

/** What a member is called, and how it reads; one that is no sentence is said to change only. */
type Said<Value> = { what: string; print?: (value: Value) => string };
/** Every member that can differ: one that is forgotten here does not compile. */
type SaidOf<Document> = { [Member in Exclude<keyof Document, 'format' | 'kind' | 'fields'>]-?: Said<Document[Member]> };

const asIs = (value: string): string => value;
const orNothing = (value: string): string => value || 'nothing';
const yesNo = (value: boolean): string => (value ? 'yes' : 'no');
const listed = (values: string[], none: string): string => values.join(', ') || none;

const COMMON = {
  statement: { what: 'The words that sending agrees to', print: orNothing },
  trust: { what: 'How much it is trusted' },
};

const COMPARED = {
  variants: {
    what: 'Variants',
    print: (variants: Compared<object>['variants']) =>
      listed(
        variants.map(({ name, share }) => `${name} ${share} %`),
        'none',
      ),
  },
  goal: { what: 'What variants are compared by', print: asIs },
  goalPage: { what: 'The page that variants are compared by', print: orNothing },
};

const SHOWING: SaidOf<Showing> = {
  triggers: { what: 'What brings it up' },
  pages: { what: 'On which pages', print: (pages) => listed(pages, 'on every page') },
  notPages: { what: 'On which pages not', print: (pages) => listed(pages, 'on none') },
  referrers: { what: 'Which sites visitors come from', print: (sites) => listed(sites, 'any') },
  campaigns: { what: 'Which campaigns visitors come from', print: (campaigns) => listed(campaigns, 'any or none') },
  visitors: { what: 'Which visitors see it', print: asIs },
  devices: { what: 'Which devices show it', print: (devices) => listed(devices, 'none') },
  againMinutes: { what: 'Minutes until it shows itself again', print: String },
  closedDays: { what: 'Days it stays away after it was closed', print: String },
  notAfterSent: { what: 'Whether it stays away once it was sent', print: yesNo },
  priority: { what: 'Its rank among several', print: String },
  position: { what: 'Where it stands', print: asIs },
  entrance: { what: 'How it comes in', print: asIs },
  placeAt: { what: 'By which part of a page it stands', print: orNothing },
  placeSide: { what: 'On which side of that', print: asIs },
};

const ENDING: SaidOf<Ending> = {
  title: { what: 'The heading of the ending', print: orNothing },
  message: { what: 'The words of the ending', print: (message) => message || 'our own words' },
  next: { what: 'Where visitors go on to', print: (next) => next || 'they stay' },
  seconds: { what: 'Seconds until they go on', print: String },
  newTab: { what: 'Whether they go on in a new tab', print: yesNo },
  link: { what: 'The link in the ending', print: (link) => (link ? `${link.label} (${link.url})` : 'none') },
  download: {
    what: 'The file that is handed out',
    print: (download) => (download ? `${download.label}, for ${download.days} days` : 'none'),
  },
};

const messages = (endings: EndingIf[]): string =>
  listed(
    endings.map(({ message, next }) => `“${message || next}”`),
    'none',
  );

const FORM: SaidOf<Omit<FormDocument, 'showing' | 'ending'>> = {
  ...COMMON,
  ...COMPARED,
  title: { what: 'The heading', print: orNothing },
  items: { what: 'What stands on it, in which order, and for whom' },
  language: { what: 'The language', print: asIs },
  look: { what: 'The look' },
  theme: { what: 'The theme' },
  presentation: { what: 'How it is shown', print: asIs },
  open: {
    what: 'While it is open',
    print: ({ from, to, zone }) => `from ${from || 'now on'} to ${to || 'for ever'} (${zone})`,
  },
  closedText: { what: 'What stands there while it is closed', print: (text) => text || 'our own words' },
  button: { what: 'The button', print: asIs },
  resetLabel: { what: 'The button that clears it', print: (label) => label || 'none' },
  endings: { what: 'The endings for some', print: messages },
  instead: { what: 'What known visitors see instead', print: messages },
  goOnLater: { what: 'Whether it can be gone on with later', print: yesNo },
  origins: { what: 'The sites that may send it', print: (sites) => listed(sites, 'any') },
  minimumSeconds: { what: 'Seconds before which only robots send it', print: String },
  guards: { what: 'What is set aside' },
};

const CHAT: SaidOf<Omit<ChatDocument, 'showing'>> = {
  ...COMMON,
  ...COMPARED,
  parts: { what: 'What is said, and in which order' },
  unfinished: { what: 'What becomes of one that breaks off', print: asIs },
  breaksOffMinutes: { what: 'Minutes after which it has broken off', print: String },
  title: { what: 'The heading', print: orNothing },
  launcher: { what: 'The button that opens it', print: asIs },
  look: { what: 'The look' },
  language: { what: 'The language', print: asIs },
  origins: { what: 'The sites on which it shows itself', print: (sites) => listed(sites, 'any') },
};

const POSTED: SaidOf<PostsDocument> = {
  ...COMMON,
  each: { what: 'What is a submission of its own', print: (each) => each || 'the whole' },
  proof: { what: 'How it is known who sends', print: ({ by }) => by },
  idPath: { what: 'By what a repetition is known', print: orNothing },
  events: { what: 'Which kinds of event are taken' },
  answer: { what: 'What the sender is answered', print: ({ status }) => String(status) },
  challenge: { what: 'What is said back to a first question', print: ({ by }) => by },
};

const TOLD: SaidOf<Pick<RegistrationDocument, 'answers' | 'saidBy' | 'kindField' | 'testField'>> = {
  answers: { what: 'Where it stands what they agreed to' },
  saidBy: { what: 'By which events people say anew what they want', print: (kinds) => listed(kinds, 'none') },
  kindField: { what: 'Where the kind of event stands', print: asIs },
  testField: { what: 'Where it stands that it is a test', print: asIs },
};

const REGISTRATION: SaidOf<RegistrationDocument> = {
  ...POSTED,
  ...TOLD,
  membershipField: { what: 'Where the membership stands', print: asIs },
  membershipPaths: { what: 'Where the parts of the membership stand' },
  zone: { what: 'The time zone of its days', print: asIs },
  lapsedKind: { what: 'What an ended membership is called', print: asIs },
};

const SHOP: SaidOf<ShopDocument> = {
  ...COMMON,
  ...TOLD,
  connectionId: { what: 'The shop' },
  events: { what: 'Which kinds of event are taken' },
  idPath: { what: 'By what a repetition is known', print: orNothing },
};

const FILE: SaidOf<FileDocument> = COMMON;

/** How a draft differs from what is live in all but its fields, in the order in which people meet it. */
export function documentChanges(live: MadeDocument, draft: MadeDocument): PartChange[] {
  if (live.kind === 'form' && draft.kind === 'form')
    return [
      ...changesIn(FORM, live, draft),
      ...changesIn(SHOWING, live.showing, draft.showing),
      ...changesIn(ENDING, live.ending, draft.ending),
    ];
  if (live.kind === 'chat' && draft.kind === 'chat')
    return [...changesIn(CHAT, live, draft), ...changesIn(SHOWING, live.showing, draft.showing)];
  if (live.kind === 'posts' && draft.kind === 'posts') return changesIn(POSTED, live, draft);
  if (live.kind === 'registration' && draft.kind === 'registration') return changesIn(REGISTRATION, live, draft);
  if (live.kind === 'shop' && draft.kind === 'shop') return changesIn(SHOP, live, draft);
  if (live.kind === 'file' && draft.kind === 'file') return changesIn(FILE, live, draft);
  return [{ what: 'The kind of source', before: live.kind, after: draft.kind }];
}

function changesIn<Document extends object>(
  said: SaidOf<Document>,
  before: NoInfer<Document>,
  after: NoInfer<Document>,
): PartChange[] {
  return (Object.entries(said) as [keyof Document, Said<unknown>][]).flatMap(([member, { what, print }]) => {
    const [old, now] = [before[member], after[member]];
    if (dequal(old, now)) return [];
    const [was, is] = print ? [print(old), print(now)] : ['', ''];
    return [was === is ? { what, before: '', after: '' } : { what, before: was, after: is }];
  });
}
