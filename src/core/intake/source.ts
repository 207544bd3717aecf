import type { SourceField } from '../values/index.ts';

/** A form, as the operator builds it; publishing freezes it as a version. */
export interface SourceDocument {
  fields: SourceField[];
  button: string;
  /** The words beside the button that sending the form agrees to; '' for none. */
  statement: string;
  /** Where the visitor goes afterwards; '' shows the neutral page with the message. */
  thankYouUrl: string;
  thankYouMessage: string;
  /** Site origins from which it takes submissions, such as https://example.org; none means any. */
  origins: string[];
  minimumSeconds: number;
}
