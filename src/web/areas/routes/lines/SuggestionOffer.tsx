import { Lightbulb } from 'lucide-react';
import type { Suggestion } from '../../../../core/mapping/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { originInWords } from './originPicks.ts';

/** How sure a suggestion is, in per cent. */
export const sureInWords = (confidence: number): string => `${Math.round(confidence * 100)} %`;

/** What a field could be filled from, offered in its row: a click takes it. */
export function SuggestionOffer({
  label,
  suggestion: { line, confidence, because },
  fields,
  onTake,
}: {
  /** Of the field there. */
  label: string;
  suggestion: Suggestion;
  fields: SourceField[];
  onTake: () => void;
}) {
  const origin = originInWords(line, fields);
  const why = `${sureInWords(confidence)} sure: ${because.join('; ')}.`;
  return (
    <button
      className="btn btn-xs btn-ghost max-w-full justify-start font-normal text-muted"
      aria-label={`Fill ${label} from ${origin}. ${why}`}
      title={why}
      onClick={onTake}
    >
      <Lightbulb size={13} aria-hidden="true" className="shrink-0" />
      <span className="truncate">{origin}?</span>
      <span className="shrink-0">{sureInWords(confidence)}</span>
    </button>
  );
}
