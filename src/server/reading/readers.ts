import type { DescriptionView, OperationChoice } from '../../contract/profiles.ts';
import type { FileReading } from '../../contract/imports.ts';
import type { FoundForm, FoundLook } from '../../core/formats/index.ts';
import type { Payload } from '../../core/intake/index.ts';
import type { Result } from '../../core/result.ts';
import type { Sheet } from '../../core/tables/index.ts';
import type { Profile } from '../../contract/profile/index.ts';

type Row = { number: number; cells: Record<string, unknown> };

/**
 * What somebody else made and we read: what each reader is given, and what it makes of that. Each of them runs in a thread of the
 * pool (`thread.ts`), within its budget below; the compiler asks for both where one is added here.
 */
export interface Readers {
  /** An OpenAPI description, with the operations that were chosen, or guessed. */
  description: { given: { text: string; choice: OperationChoice | null }; made: Result<DescriptionView> };
  /** A cURL line, as a profile. */
  curl: { given: { line: string }; made: Result<Profile> };
  forms: { given: { html: string }; made: FoundForm[] };
  look: { given: { html: string; sheets: string[] }; made: FoundLook };
  /** The style sheets that a page names or holds. @see sheetsOf */
  sheetNames: { given: { html: string; url: string }; made: ({ url: string } | { css: string })[] };
  /** A page as it can be shown in ours. */
  page: { given: { html: string; url: string; sheets: { url: string; css: string }[] }; made: string };
  /** XML that a program sent. */
  xml: { given: { text: string }; made: Result<Payload> };
  /** How a file of rows is laid out. */
  layout: { given: { place: string }; made: Result<FileReading> };
  /** The first rows of a file of rows. */
  firstRows: { given: { place: string; reading: FileReading; most: number }; made: Result<Row[]> };
  /** A workbook or a spreadsheet. */
  sheets: { given: { place: string; format: 'workbook' | 'spreadsheet' }; made: Result<Sheet[]> };
  /** A list in JSON, or cards: what can only be read as a whole. */
  wholeRows: { given: { place: string; reading: FileReading }; made: Result<Row[]> };
}

export type ReaderName = keyof Readers;

/** What one reading may use. Bytes and depth are bounded by the readers themselves, which know what is too much of what. */
export interface Budget {
  /** What is read, as it is called before whoever gave it. */
  what: string;
  /** Which threads: those for what visitors and programs send, or those for what operators give. */
  pool: 'arrivals' | 'documents';
  milliseconds: number;
  /** What to do where it is more than that. */
  next: string;
}

const SECOND = 1_000;

export const BUDGETS: Record<ReaderName, Budget> = {
  description: {
    what: 'this document',
    pool: 'documents',
    milliseconds: 15 * SECOND,
    next: 'Give one with fewer operations.',
  },
  curl: { what: 'this line', pool: 'documents', milliseconds: 2 * SECOND, next: 'Give a shorter one.' },
  forms: {
    what: 'this page',
    pool: 'documents',
    milliseconds: 5 * SECOND,
    next: 'Paste the HTML of the form alone instead.',
  },
  look: {
    what: 'this page',
    pool: 'documents',
    milliseconds: 5 * SECOND,
    next: 'Paste the CSS of its buttons and inputs instead.',
  },
  sheetNames: { what: 'this page', pool: 'documents', milliseconds: 3 * SECOND, next: 'Try another page.' },
  page: { what: 'this page', pool: 'documents', milliseconds: 5 * SECOND, next: 'Try another page.' },
  xml: { what: 'this XML', pool: 'arrivals', milliseconds: 1 * SECOND, next: 'Send it in smaller parts.' },
  layout: {
    what: 'this file',
    pool: 'documents',
    milliseconds: 60 * SECOND,
    next: 'Export it as CSV, in smaller parts.',
  },
  firstRows: {
    what: 'this file',
    pool: 'documents',
    milliseconds: 10 * SECOND,
    next: 'Export it as CSV, in smaller parts.',
  },
  sheets: {
    what: 'this file',
    pool: 'documents',
    milliseconds: 60 * SECOND,
    next: 'Export the sheet as CSV, which may have any size.',
  },
  wholeRows: {
    what: 'this file',
    pool: 'documents',
    milliseconds: 60 * SECOND,
    next: 'Export it as CSV, which may have any size.',
  },
};
