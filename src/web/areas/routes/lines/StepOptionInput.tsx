import { useId } from 'react';
import { factFields } from '../../../../core/intake/index.ts';
import type { OptionValue, Pair, StepOption } from '../../../../core/mapping/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { PairsInput } from './PairsInput.tsx';

interface StepOptionInputProps {
  option: StepOption;
  told: OptionValue;
  fields: SourceField[];
  /** The answers that the source's field can have. */
  answers: string[];
  /** The choices that the destination's field has. */
  choices: string[];
  onTell: (value: OptionValue) => void;
}

/** Languages in whose manner names, numbers and dates are written, by their tags. */
const LANGUAGES =
  'en-GB en-US de de-CH fr fr-CH es it nl pt pt-BR pl sv da nb fi cs hu ro el tr ru uk ar he hi ja ko zh vi'.split(' ');
const languageNames = new Intl.DisplayNames('en-GB', { type: 'language' });

/** One thing that a step is told. */
export function StepOptionInput({ option, told, fields, answers, choices, onTell }: StepOptionInputProps) {
  const listId = useId();
  const text = typeof told === 'object' ? '' : String(told);
  switch (option.kind) {
    case 'pairs':
      return (
        <PairsInput
          label={option.label}
          pairs={typeof told === 'object' ? told : []}
          answers={answers}
          choices={choices}
          onChange={(pairs: Pair[]) => onTell(pairs)}
        />
      );
    case 'number':
      return (
        <Field label={option.label}>
          <input
            className="input input-sm w-full"
            type="number"
            min={option.least}
            max={option.most}
            value={text}
            onChange={(event) => {
              const number = event.target.valueAsNumber;
              if (Number.isInteger(number) && number >= option.least && number <= option.most) onTell(number);
            }}
          />
        </Field>
      );
    case 'choice':
      return (
        <Field label={option.label}>
          <select className="select select-sm w-full" value={text} onChange={(event) => onTell(event.target.value)}>
            {option.of.map((word) => (
              <option key={word}>{word}</option>
            ))}
          </select>
        </Field>
      );
    case 'language':
      return (
        <Field label={option.label}>
          <select className="select select-sm w-full" value={text} onChange={(event) => onTell(event.target.value)}>
            <option value="">any language</option>
            {[...new Set([...LANGUAGES, ...(text === '' ? [] : [text])])].map((tag) => (
              <option key={tag} value={tag}>
                {languageNames.of(tag)}
              </option>
            ))}
          </select>
        </Field>
      );
    case 'field':
      return (
        <Field label={option.label}>
          <select className="select select-sm w-full" value={text} onChange={(event) => onTell(event.target.value)}>
            <option value="">nothing</option>
            {factFields(fields).map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        </Field>
      );
    case 'currency':
    case 'time zone': {
      const known = Intl.supportedValuesOf(option.kind === 'currency' ? 'currency' : 'timeZone');
      const isKnown = text === '' ? option.kind === 'time zone' : known.includes(text) || text === 'UTC';
      return (
        <>
          <Field label={option.label} error={isKnown ? undefined : `There is no ${option.kind} "${text}".`}>
            <input
              className="input input-sm w-full"
              list={listId}
              value={text}
              onChange={(event) => onTell(event.target.value)}
            />
          </Field>
          <datalist id={listId}>
            {known.map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
        </>
      );
    }
    case 'text':
      return (
        <Field label={option.label}>
          <input className="input input-sm w-full" value={text} onChange={(event) => onTell(event.target.value)} />
        </Field>
      );
    default:
      return option satisfies never;
  }
}
