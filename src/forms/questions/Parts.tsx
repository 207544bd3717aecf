import type { Control } from '../../core/forms/index.ts';
import type { QuestionShown } from '../shown.ts';
import { Element } from './Entered.tsx';
import { stateOf } from './Label.tsx';

/** Parts that not everybody has. */
const MAY_LACK = new Set(['family', 'region']);

interface PartsProps {
  shown: QuestionShown;
  parts: Extract<Control, { kind: 'parts' }>['parts'];
}

/** A name or an address, in its parts. */
export function Parts({ shown, parts }: PartsProps) {
  const { field, id, filled, language, say } = shown;
  const { required, ...state } = stateOf(shown);
  return parts.map(({ part, control }) => {
    const name = `${field.key}.${part}`;
    return (
      <div key={part} className="part">
        <label htmlFor={`${id}-${part}`}>{say(`parts.${part}`)}</label>
        <Element
          control={control}
          id={`${id}-${part}`}
          name={name}
          // The country of a telephone number may be chosen beforehand.
          value={filled.typed?.find(([own]) => own === name)?.[1] ?? (part === 'country' ? field.preset : '')}
          autocomplete=""
          language={language}
          more={{ ...state, required: required && !MAY_LACK.has(part) }}
        />
      </div>
    );
  });
}
