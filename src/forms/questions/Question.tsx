import { controlOf, type Control, type ShownQuestion } from '../../core/forms/index.ts';
import { conditionOf } from '../conditionOf.ts';
import { heldBy, type Filled, type QuestionShown } from '../shown.ts';
import type { FormLanguage, Look } from '../../core/forms/index.ts';
import type { SourceField } from '../../core/values/index.ts';
import { neededIn, unfitIn, type Say } from '../words/index.ts';
import { Choices } from './Choices.tsx';
import { Entered } from './Entered.tsx';
import { FileChoice } from './FileChoice.tsx';
import { Optional } from './Optional.tsx';
import { Parts } from './Parts.tsx';
import { Rows } from './Rows.tsx';
import { Steps } from './Steps.tsx';
import { Tick } from './Tick.tsx';

interface QuestionProps {
  question: ShownQuestion;
  /** Whether it stands on one of several pages: then what is missing is said before one goes on. */
  paged: boolean;
  filled: Filled;
  labels: Look['labels'];
  language: FormLanguage;
  say: Say;
}

/** One question: its label, what it is answered by, what is wrong with the answer, and help. */
export function Question({ question, paged, filled, labels, language, say }: QuestionProps) {
  const { field } = question;
  const id = `${filled.prefix}-${field.key}`;
  const own = { 'data-question': field.id, ...conditionOf(question), ...(paged ? spoken(field, language) : {}) };
  const wrong = filled.wrong[field.key] ?? '';
  const described = [wrong && `${id}-wrong`, field.help && `${id}-help`].filter((one) => one !== '').join(' ');
  const shown: QuestionShown = {
    field,
    id,
    sent: heldBy(field, filled),
    wrong,
    described: described === '' ? undefined : described,
    labels,
    language,
    filled,
    say,
  };
  const control = controlOf(field);
  const below = (
    <>
      {wrong && (
        <p className="wrong" id={`${id}-wrong`}>
          {wrong}
        </p>
      )}
      {field.help && (
        <p className="help" id={`${id}-help`}>
          {field.help}
        </p>
      )}
    </>
  );
  const width = field.width === 'full' ? '' : ` ${field.width}`;
  if (isSet(control))
    return (
      <fieldset
        className={`question${width}`}
        id={id}
        {...own}
        aria-describedby={shown.described}
        aria-label={field.labelShown ? undefined : field.label}
      >
        {field.labelShown && (
          <legend dir="auto">
            {field.label}
            <Optional shown={shown} />
          </legend>
        )}
        <Answers control={control} shown={shown} />
        {below}
      </fieldset>
    );
  const entered = control.kind === 'tick' ? '' : ' entered';
  return (
    <div className={`question${entered}${width}`} {...own}>
      <Answers control={control} shown={shown} />
      {below}
    </div>
  );
}

/** What is said where it is left empty, or holds what it cannot. */
const spoken = (field: SourceField, language: FormLanguage) => ({
  'data-needed': field.required ? field.errorText || neededIn(language, field) : undefined,
  'data-unfit': field.errorText || unfitIn(language, field.type),
});

/** Whether a question is answered by several elements, under one heading. */
const isSet = (control: Control): boolean =>
  control.kind === 'answers'
    ? control.as === 'buttons' || control.as === 'boxes' || control.as === 'pictures'
    : control.kind === 'parts' || control.kind === 'rows' || control.kind === 'steps';

function Answers({ control, shown }: { control: Control; shown: QuestionShown }) {
  switch (control.kind) {
    case 'tick':
      return <Tick shown={shown} />;
    case 'answers':
      return <Choices shown={shown} control={control} />;
    case 'steps':
      return <Steps shown={shown} control={control} />;
    case 'parts':
      return <Parts shown={shown} parts={control.parts} />;
    case 'rows':
      return <Rows shown={shown} columns={control.columns} />;
    case 'file':
      return <FileChoice shown={shown} accept={control.accept} />;
    case 'hidden':
      return null;
    default:
      return <Entered shown={shown} control={control} />;
  }
}
