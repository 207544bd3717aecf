import { withVariant } from '../../core/forms/index.ts';
import type { SourceDocument } from '../../core/intake/index.ts';

/** A source as whoever sent a submission saw it: what people agree to are the words of the variant that they were shown. */
export const asShown = (document: SourceDocument, variant: string | null): SourceDocument =>
  document.kind === 'form' || document.kind === 'chat'
    ? withVariant<typeof document>(document, variant ?? '')
    : document;
