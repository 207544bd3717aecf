import { VERSION_FIELD } from '../../core/forms/index.ts';
import { asVariant, type SourceDocument } from '../../core/intake/index.ts';
import { senderOf } from '../intake/take.ts';
import type { SubmissionRecord } from '../store/submissions.ts';
import type { PlanningContexts } from './planningContexts.ts';

/** What stood on the page on which somebody sent something. */
export interface Shown {
  /** The words by which they agreed. */
  words: Pick<SourceDocument, 'fields' | 'statement'>;
  /** How it is known, as it is kept beside what they agreed to. */
  evidence: Record<string, string>;
}

const NOT_KNOWN = 'not known: the page did not say which version of the form it shows';

/**
 * The words that whoever sent a submission saw: those of the version that the page says it shows, in the variant that it shows. A page
 * that does not say so, such as a form of the site's own, may have had other words than the form has here, which is said.
 */
export async function shownTo(
  planningContexts: PlanningContexts,
  document: SourceDocument,
  {
    sourceId,
    sourceVersion,
    variant: shownVariant,
    raw,
  }: Pick<SubmissionRecord, 'sourceId' | 'sourceVersion' | 'variant' | 'raw'>,
): Promise<Shown> {
  const variant = shownVariant ?? '';
  if (document.kind !== 'form') return { words: asVariant(document, variant), evidence: {} };
  const version = Number((raw.payload && senderOf(raw.payload)(VERSION_FIELD)) ?? '');
  const isKnown = Number.isInteger(version) && version >= 1 && version <= sourceVersion;
  const shown = !isKnown
    ? null
    : version === sourceVersion
      ? document
      : await planningContexts.source(sourceId, version).catch(() => null);
  return shown
    ? { words: asVariant(shown, variant), evidence: { 'version of the form': String(version) } }
    : { words: asVariant(document, variant), evidence: { "the page's own words": NOT_KNOWN } };
}
