import { countryOptions, type Control, type FormLanguage } from '../../core/forms/index.ts';
import type { QuestionShown } from '../shown.ts';
import { Label, namedBy, stateOf } from './Label.tsx';

/** A question that is answered by one input, text area or list of countries. */
export function Entered({ shown, control }: { shown: QuestionShown; control: Control }) {
  const { field, id, sent, language } = shown;
  const usual = control.kind === 'input' ? (control.attributes.placeholder ?? '') : '';
  return (
    <>
      <Label shown={shown} />
      <Element
        control={control}
        id={id}
        name={field.key}
        value={sent[0] ?? ''}
        autocomplete={field.autocomplete}
        language={language}
        more={{ ...namedBy(shown, usual), ...stateOf(shown) }}
      />
    </>
  );
}

interface ElementProps {
  control: Control;
  id: string;
  name: string;
  value: string;
  /** What was chosen by hand; '' for what the type and meaning of the field say. */
  autocomplete: string;
  language: FormLanguage;
  more: Record<string, string | boolean | undefined>;
}

export function Element({ control, id, name, value, autocomplete, language, more }: ElementProps) {
  switch (control.kind) {
    case 'lines':
      return (
        <textarea
          id={id}
          name={name}
          rows={5}
          autoComplete={autocomplete || undefined}
          dir="auto"
          defaultValue={value}
          {...more}
        />
      );
    case 'countries': {
      const { placeholder, ...others } = more;
      return (
        <select
          id={id}
          name={name}
          autoComplete={autocomplete || control.autocomplete}
          defaultValue={value}
          {...others}
        >
          <option value="">{placeholder ?? ''}</option>
          {countryOptions(language).map(({ code, name: country }) => (
            <option key={code} value={code}>
              {country}
            </option>
          ))}
        </select>
      );
    }
    case 'input': {
      const { placeholder: _, inputmode, ...attributes } = control.attributes;
      return (
        <input
          type={control.type}
          id={id}
          name={name}
          autoComplete={autocomplete || control.autocomplete || undefined}
          inputMode={inputmode as 'decimal' | undefined}
          defaultValue={value}
          {...attributes}
          {...more}
        />
      );
    }
    default:
      return null;
  }
}
