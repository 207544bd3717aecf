import { objectsIn, presentFormat, upToDate, type DocumentIssue, type Format, type Loose } from '../documents/index.ts';
import {
  PLAIN_LOOK,
  questionsOf,
  saying,
  withVariant,
  type Ending,
  type EndingIf,
  type FormItem,
  type FormLanguage,
  type Compared,
  type Look,
  type VariantFace,
} from '../forms/index.ts';
import type { ChatFace, ChatParts } from '../chat/index.ts';
import { IN_ONE_PLACE, type MembershipPaths } from './membershipPaths.ts';
import { NO_GUARDS, type Guards } from './screening.ts';
import type { SaidParts, ShopParts } from './shopParts.ts';
import { PLAIN_WEBHOOK, type WebhookParts } from './webhookParts.ts';
import { PLAIN_SHOWING, type Presentation, type Showing } from '../showing/index.ts';
import { bad, good, type Result } from '../result.ts';
import { plainField, type SourceField, type Trust } from '../values/index.ts';

/** By what people, or other systems for them, hand something over: the kinds that operators make. */
export const SOURCE_KINDS = ['form', 'posts', 'file', 'shop', 'registration', 'chat'] as const;
export type MadeKind = (typeof SOURCE_KINDS)[number];
/** notices: what a connected system tells us; such a source is there as soon as one is listened to. */
export type SourceKind = MadeKind | 'notices';

/** What a source of every kind has. */
interface AnySource {
  format: number;
  fields: SourceField[];
  /** The words that sending agrees to: beside the button of a form, or as another system shows them; '' for none. */
  statement: string;
  /** How far what it says of people is trusted, beside what other sources say of them. */
  trust: Trust;
}

/** From when to when something is open, in the time of a zone; '' for since ever, and for ever. */
export interface OpenTimes {
  /** Such as 2026-12-01T09:00. */
  from: string;
  to: string;
  /** A name of the IANA time zone database, such as Europe/London. */
  zone: string;
}

const ALWAYS: OpenTimes = { from: '', to: '', zone: 'UTC' };

/** A form that visitors fill in. */
export interface FormDocument extends AnySource, Compared<VariantFace> {
  kind: 'form';
  /** What visitors read above it; '' for nothing. Its name is for those who work with it. */
  title: string;
  /** What stands on it, in order. */
  items: FormItem[];
  /** The language of our own words on it; visitor: as the visitor's browser asks for it. */
  language: FormLanguage | 'visitor';
  look: Look;
  /** Id of the theme that the look is of; '' for none. */
  theme: string;
  presentation: Presentation;
  /** When it shows itself; of use where it does. */
  showing: Showing;
  /** While it takes something; outside of that it is closed. */
  open: OpenTimes;
  /** What stands in its place while it is closed; '' for our own words. */
  closedText: string;
  button: string;
  /** The label of a button that puts the form back as it was shown; '' for none. */
  resetLabel: string;
  /** What comes after it was sent; and what comes instead for some, of which the first whose condition holds counts. */
  ending: Ending;
  endings: EndingIf[];
  /** What stands there instead of the form for visitors of whom something is known; the first whose condition holds. */
  instead: EndingIf[];
  /** Whether visitors can leave it half filled in, and go on later by a link. */
  goOnLater: boolean;
  /** Site origins from which it takes submissions, such as https://example.org; none means any. */
  origins: string[];
  minimumSeconds: number;
  guards: Guards;
}

interface AnyPosted extends AnySource, WebhookParts {
  /** A JSONPath to what is a submission of its own in each payload; '' when a payload is one. */
  each: string;
}

/** An address for programs: another system hands on what it was given. */
export interface PostsDocument extends AnyPosted {
  kind: 'posts';
}

/** An address to which a site tells who registers with it, and becomes, is or is no more a member. */
export interface RegistrationDocument extends AnyPosted, SaidParts {
  kind: 'registration';
  /** The field that holds the membership. */
  membershipField: string;
  /** Where its parts are, if not as one object where the field is. */
  membershipPaths: MembershipPaths;
  /** Whose days its first and last ones are: a name of the IANA time zone database. */
  zone: string;
  /** What a membership that ended by itself is called, beside the kinds of event that the site tells: we tell it to ourselves. */
  lapsedKind: string;
}

/** A conversation that visitors have on a page. */
export interface ChatDocument extends AnySource, ChatParts, ChatFace, Compared<ChatFace> {
  kind: 'chat';
  language: FormLanguage | 'visitor';
  /** Site origins on which it shows itself, such as https://example.org; none means any. */
  origins: string[];
  /** On which pages, and when, its button is there. */
  showing: Showing;
}

/** What programs post to an address of its own. */
export type PostedDocument = PostsDocument | RegistrationDocument;

export const isPosted = (document: SourceDocument): document is PostedDocument =>
  document.kind === 'posts' || document.kind === 'registration';

/** Files whose rows are submissions: lists of people that were kept elsewhere. */
export interface FileDocument extends AnySource {
  kind: 'file';
}

/** The same as an address for programs, which reads payloads in the same way. Each row is one of its own. */
export const asPosts = (document: FileDocument): PostsDocument => ({
  ...document,
  kind: 'posts',
  each: '',
  ...PLAIN_WEBHOOK,
});

/** A shop that is connected: what happens there, and what its customers agree to. */
export interface ShopDocument extends AnySource, ShopParts {
  kind: 'shop';
}

/** Where in what a system tells the parts of an event are, as JSONPaths, and what its kinds mean. */
export interface NoticePaths {
  /** To each event; absent where what is told is one. */
  events?: string;
  id: string;
  kind: string;
  email: string;
  at?: string;
  means: Record<string, string>;
}

/** What a connected system tells us happened there. */
export interface NoticesDocument extends AnySource {
  kind: 'notices';
  connectionId: string;
  reads: NoticePaths;
}

/** A source that an operator builds; publishing freezes it as a version. */
export type MadeDocument =
  FormDocument | PostsDocument | FileDocument | ShopDocument | RegistrationDocument | ChatDocument;
export type SourceDocument = MadeDocument | NoticesDocument;

/** A source as one of its variants shows it; itself where it has none of that id. */
export function asVariant(document: MadeDocument, id: string): MadeDocument;
export function asVariant(document: SourceDocument, id: string): SourceDocument;
export function asVariant(document: SourceDocument, id: string): SourceDocument {
  return document.kind === 'form' || document.kind === 'chat' ? withVariant<typeof document>(document, id) : document;
}

/** What a form has before anybody chose anything: its questions in the order of its fields, in English, plainly. */
export const plainFace = (
  fields: SourceField[],
): Pick<FormDocument, 'title' | 'items' | 'language' | 'look'> & typeof PLAIN_PLACING => ({
  title: '',
  items: questionsOf(fields),
  language: 'en',
  look: PLAIN_LOOK,
  ...PLAIN_PLACING,
});

/** A form that stands where a page has a place for it, always open. */
const PLAIN_PLACING: Pick<
  FormDocument,
  | 'presentation'
  | 'showing'
  | 'open'
  | 'closedText'
  | 'endings'
  | 'instead'
  | 'variants'
  | 'goal'
  | 'goalPage'
  | 'guards'
  | 'theme'
  | 'goOnLater'
> = {
  presentation: 'inline',
  showing: PLAIN_SHOWING,
  open: ALWAYS,
  closedText: '',
  endings: [],
  instead: [],
  variants: [],
  goal: 'completed',
  goalPage: '',
  guards: NO_GUARDS,
  theme: '',
  goOnLater: false,
};

/** The source of what a connection tells. */
export const noticesDocument = (connectionId: string, reads: NoticePaths): NoticesDocument => ({
  format: SOURCE_FORMAT,
  kind: 'notices',
  fields: [
    { ...plainField('email', 'email'), label: 'Email', keepAs: 'email' },
    { ...plainField('event', 'text'), label: 'Event' },
    { ...plainField('meaning', 'text'), label: 'What it means' },
    { ...plainField('at', 'date-time'), label: 'When' },
    { ...plainField('id', 'text'), label: 'Its id there' },
  ],
  statement: '',
  trust: 'usual',
  connectionId,
  reads,
});

const SOURCE: Format = {
  what: 'source',
  upgrades: [
    withKinds,
    withTrust,
    withErrorTexts,
    withItems,
    withShowing,
    withPaths,
    withOwnFiles,
    withWebhook,
    withComparedChats,
  ],
};

/** The format of sources as they are written today. */
export const SOURCE_FORMAT = presentFormat(SOURCE);

/** Reads a source of any format that was ever written. */
export const readSource = (json: unknown): Result<SourceDocument, DocumentIssue> =>
  upToDate(SOURCE, json) as Result<SourceDocument, DocumentIssue>;

/** Reads a source that an operator makes, which is all that can be handed on. */
export function readMadeSource(json: unknown): Result<MadeDocument, DocumentIssue> {
  const read = readSource(json);
  if (!read.ok) return read;
  const { value } = read;
  if (value.kind === 'notices')
    return bad({
      pointer: '/kind',
      detail: 'What a connected system tells cannot be imported: connect it, and listen.',
    });
  return value.kind === 'shop'
    ? bad({ pointer: '/kind', detail: 'A shop cannot be imported: connect it, and make a source of it.' })
    : good(value);
}

/**
 * To format 2: a source has a kind; fields have ids, and how they are entered is told apart from what they hold.
 * The id of a field of format 1 is its name, under which its values stand.
 */
function withKinds(old: Loose): Loose {
  return {
    kind: 'form',
    ...old,
    fields: objectsIn(old.fields).map(({ several, type, ...field }) => ({
      id: field.key,
      path: '',
      labelShown: true,
      placeholder: '',
      width: 'full',
      autocomplete: '',
      keepRule: 'latest',
      ...field,
      ...typed(String(type), several === true),
    })),
  };
}

/** To format 3: a source says how far it is trusted. */
function withTrust(old: Loose): Loose {
  return { trust: 'usual', ...old };
}

/** To format 4: fields may have error texts of their own, and forms a button that resets them. */
function withErrorTexts(old: Loose): Loose {
  return {
    ...old,
    ...(old.kind === 'form' ? { resetLabel: '' } : {}),
    fields: objectsIn(old.fields).map((field) => ({ errorText: '', ...field })),
  };
}

/** To format 5: a form says in which order its questions and what stands between them come, in which language, and how it looks. */
function withItems(old: Loose): Loose {
  const fields = objectsIn(old.fields).map((field) => ({ range: null, ...field }));
  if (old.kind !== 'form') return { ...old, fields };
  const { title, items, language, look } = plainFace(fields as unknown as SourceField[]);
  return { title, items, language, look, ...old, fields };
}

/** To format 6: a form says how it comes before visitors, when it shows itself, and from when to when it is open. */
function withShowing(old: Loose): Loose {
  return old.kind === 'form' ? { thankYouSeconds: 0, ...PLAIN_PLACING, ...old } : old;
}

/** To format 7: answers may have pictures, what stands on a form may depend on answers, and so may what comes after it was sent. */
function withPaths(before: Loose): Loose {
  const old: Loose = { ...before, fields: objectsIn(before.fields).map((field) => ({ pictures: [], ...field })) };
  if (old.kind !== 'form') return old;
  const { thankYouUrl, thankYouMessage, thankYouSeconds, ...rest } = old;
  const ending = saying(String(thankYouMessage), { next: String(thankYouUrl), seconds: Number(thankYouSeconds) });
  const items = objectsIn(old.items).map((item) => ({ shownIf: null, ...item }));
  const look = withFades(old.look as Loose);
  return {
    endings: [],
    instead: [],
    variants: [],
    goal: 'completed',
    guards: NO_GUARDS,
    theme: '',
    goOnLater: false,
    ...rest,
    look,
    ending,
    items,
  };
}

/** To format 8: pictures may be ours and lie behind a form, endings hand something out, and variants may be nothing at all. */
function withOwnFiles(old: Loose): Loose {
  if (old.kind !== 'form') return old;
  const items = (of: unknown) =>
    objectsIn(of).map((item) => (item.kind === 'picture' ? { width: 0, height: 0, ...item } : item));
  const look = (of: unknown) => ({ picture: null, ...(of as Loose) });
  const ending = (of: unknown) => ({ newTab: false, download: null, ...(of as Loose) });
  const face = (of: unknown) => {
    const own = of as Loose;
    return { ...own, items: items(own.items), look: look(own.look), ending: ending(own.ending) };
  };
  return {
    goalPage: '',
    ...face(old),
    endings: objectsIn(old.endings).map(ending),
    instead: objectsIn(old.instead).map(ending),
    variants: objectsIn(old.variants).map((variant) => ({
      nothing: false,
      ...variant,
      face: variant.face === null ? null : face(variant.face),
    })),
  };
}

/** To format 9: addresses for programs say who may send, which events are taken, and what is answered. */
function withWebhook(old: Loose): Loose {
  return old.kind === 'posts' ? { ...PLAIN_WEBHOOK, ...old } : old;
}

/** To format 10: chats are compared in variants; a membership may stand in several places, and is of a zone. */
function withComparedChats(old: Loose): Loose {
  if (old.kind === 'registration') return { membershipPaths: IN_ONE_PLACE, zone: 'UTC', ...old };
  return old.kind === 'chat' ? { variants: [], goal: 'completed', goalPage: '', ...old } : old;
}

/** Colours may fade, and change under the pointer. */
const withFades = ({ colours, night, ...look }: Loose): Loose => {
  const own = (of: unknown) => ({ fade: '', hover: '', ...(of as Loose) });
  return { ...look, colours: own(colours), night: night === null ? null : own(night) };
};

function typed(type: string, several: boolean): { type: string; widget: string } {
  if (type === 'tick') return { type: 'yes/no', widget: 'usual' };
  if (type === 'hidden') return { type: 'text', widget: 'hidden' };
  return { type: type === 'choice' && several ? 'several choices' : type, widget: 'usual' };
}
