import { useState } from 'react';
import { ChevronDown, ChevronRight, Plus } from 'lucide-react';
import { stepInWords, stepOf, type LineResult, type MapLine, type Suggestion } from '../../../../core/mapping/index.ts';
import type { FieldValues, SourceField } from '../../../../core/values/index.ts';
import { FIELD_DRAG, setOrigin, takesSteps } from './lineEdits.ts';
import { originInWords, originPicks } from './originPicks.ts';
import { Picker } from '../../../parts/Picker.tsx';
import { SuggestionOffer } from './SuggestionOffer.tsx';

interface LineRowProps {
  result: LineResult;
  fields: SourceField[];
  values: FieldValues;
  lines: MapLine[];
  suggestion: Suggestion | undefined;
  isOpen: boolean;
  onOpen: (open: boolean) => void;
  onChange: (lines: MapLine[]) => void;
}

/** A destination field in one line: what fills it, by what steps, and what comes out. */
export function LineRow({ result, fields, values, lines, suggestion, isOpen, onOpen, onChange }: LineRowProps) {
  const { field, line } = result;
  const [isOver, setOver] = useState(false);
  const Chevron = isOpen ? ChevronDown : ChevronRight;
  return (
    <tr className={isOpen ? 'bg-base-200' : ''}>
      <td>
        <div className="flex items-center gap-1 min-w-0">
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-expanded={isOpen}
            aria-label={`${isOpen ? 'Close' : 'Open'} ${field.label}`}
            disabled={!line}
            onClick={() => onOpen(!isOpen)}
          >
            {line && <Chevron size={14} aria-hidden="true" />}
          </button>
          <span className="font-semibold truncate" title={field.label}>
            {field.label}
          </span>
          {field.required && (
            <abbr className="text-error font-semibold no-underline" title="required there">
              *
            </abbr>
          )}
          <span className="text-muted text-sm truncate shrink-[3]">{field.type}</span>
        </div>
      </td>
      <td
        className={isOver ? 'outline-2 outline-primary' : ''}
        onDragOver={(event) => {
          if (!event.dataTransfer.types.includes(FIELD_DRAG)) return;
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const dropped = event.dataTransfer.getData(FIELD_DRAG);
          if (dropped !== '') onChange(setOrigin(lines, field.key, { kind: 'field', field: dropped }));
        }}
      >
        <Picker
          label={`${field.label} is filled from`}
          control="origin"
          shown={originInWords(line, fields)}
          placeholder="nothing"
          picksFor={(typed) => originPicks(typed, { line, fields, values })}
          onPick={({ from }) => {
            onChange(setOrigin(lines, field.key, from));
            // What is not complete yet is completed beneath.
            if (from && from.kind !== 'field' && !isComplete(from)) onOpen(true);
          }}
        />
      </td>
      <td>
        {!line && suggestion && (
          <SuggestionOffer
            label={field.label}
            suggestion={suggestion}
            fields={fields}
            onTake={() => onChange([...lines, suggestion.line])}
          />
        )}
        {line && takesSteps(line.from) && (
          <div className="flex gap-1 items-center overflow-hidden">
            {line.steps.map((step) => (
              <button
                key={step.id}
                className="badge badge-sm badge-outline border-base-300 whitespace-nowrap shrink min-w-0"
                title={`${stepInWords(step)}: ${stepOf(step.kind).help}`}
                onClick={() => onOpen(true)}
              >
                <span className="truncate">{stepInWords(step)}</span>
              </button>
            ))}
            <button
              className="btn btn-ghost btn-xs btn-square shrink-0"
              aria-label={`Add a step to ${field.label}`}
              onClick={() => onOpen(true)}
            >
              <Plus size={13} aria-hidden="true" />
            </button>
          </div>
        )}
      </td>
      <td>
        <Verdict result={result} />
      </td>
    </tr>
  );
}

const isComplete = (from: MapLine['from']): boolean =>
  (from.kind === 'fixed' && from.value !== '') || (from.kind === 'text' && from.text !== '');

/** What comes out, in one line; the whole of it on hover, and in the open row. */
function Verdict({ result: { verdict } }: { result: LineResult }) {
  switch (verdict.kind) {
    case 'sent':
      return verdict.value === null ? (
        <span className="text-muted">is cleared there</span>
      ) : (
        <span className="block truncate font-semibold" title={String(verdict.value)}>
          {String(verdict.value)}
        </span>
      );
    case 'not for them':
      return (
        <span className="block truncate text-muted" title={`Left out, since ${verdict.why}`}>
          left out, since {verdict.why}
        </span>
      );
    case 'empty':
      return <span className="text-muted">empty, not sent</span>;
    case 'unmapped':
      return <span className="text-muted">not sent</span>;
    case 'wrong':
      return (
        <span className="block truncate text-error font-semibold" title={verdict.message}>
          {verdict.message}
        </span>
      );
    default:
      return verdict satisfies never;
  }
}
