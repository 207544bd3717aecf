import { objectsIn, presentFormat, upToDate, type DocumentIssue, type Format, type Loose } from '../documents/index.ts';
import type { Result } from '../result.ts';
import type { SourceField } from '../values/index.ts';

/** By what people, or other systems for them, hand something over. */
export const SOURCE_KINDS = ['form', 'posts'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];

/** What a source of every kind has. */
interface AnySource {
  format: number;
  fields: SourceField[];
  /** The words that sending agrees to: beside the button of a form, or as another system shows them; '' for none. */
  statement: string;
}

/** A form that visitors fill in. */
export interface FormDocument extends AnySource {
  kind: 'form';
  button: string;
  /** Where the visitor goes afterwards; '' shows the neutral page with the message. */
  thankYouUrl: string;
  thankYouMessage: string;
  /** Site origins from which it takes submissions, such as https://example.org; none means any. */
  origins: string[];
  minimumSeconds: number;
}

/** JSON or form posts from elsewhere: another system hands on what it was given. */
export interface PostsDocument extends AnySource {
  kind: 'posts';
  /** A JSONPath to what is a submission of its own in each payload; '' when a payload is one. */
  each: string;
}

/** A source, as the operator builds it; publishing freezes it as a version. */
export type SourceDocument = FormDocument | PostsDocument;

const SOURCE: Format = { what: 'source', upgrades: [withKinds] };

/** The format of sources as they are written today. */
export const SOURCE_FORMAT = presentFormat(SOURCE);

/** Reads a source of any format that was ever written. */
export const readSource = (json: unknown): Result<SourceDocument, DocumentIssue> =>
  upToDate(SOURCE, json) as Result<SourceDocument, DocumentIssue>;

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

function typed(type: string, several: boolean): { type: string; widget: string } {
  if (type === 'tick') return { type: 'yes/no', widget: 'usual' };
  if (type === 'hidden') return { type: 'text', widget: 'hidden' };
  return { type: type === 'choice' && several ? 'several choices' : type, widget: 'usual' };
}
