import type { Control } from '../../core/forms/index.ts';
import type { QuestionShown } from '../shown.ts';
import { Label, namedBy, stateOf } from './Label.tsx';

interface ChoicesProps {
  shown: QuestionShown;
  control: Extract<Control, { kind: 'answers' }>;
}

/** One of several answers, or several of them: a list, a list that is searched by typing, buttons or boxes. */
export function Choices({ shown, control: { as, answers } }: ChoicesProps) {
  const { field, id, sent, say } = shown;
  const inWords = (answer: string) => (field.type === 'yes/no' ? say(answer) : answer);
  switch (as) {
    case 'list': {
      const { placeholder, ...named } = namedBy(shown);
      return (
        <>
          <Label shown={shown} />
          <select
            id={id}
            name={field.key}
            autoComplete={field.autocomplete || undefined}
            defaultValue={sent[0] ?? ''}
            {...named}
            {...stateOf(shown)}
          >
            <option value="">{placeholder ?? say('choose')}</option>
            {answers.map((answer) => (
              <option key={answer} value={answer}>
                {answer}
              </option>
            ))}
          </select>
        </>
      );
    }
    case 'search':
      return (
        <>
          <Label shown={shown} />
          <input
            type="text"
            id={id}
            name={field.key}
            list={`${id}-answers`}
            autoComplete="off"
            defaultValue={sent[0] ?? ''}
            {...namedBy(shown)}
            {...stateOf(shown)}
          />
          <datalist id={`${id}-answers`}>
            {answers.map((answer) => (
              <option key={answer} value={answer} />
            ))}
          </datalist>
        </>
      );
    default: {
      const isOne = as === 'buttons';
      return (
        <div className={isOne ? 'pressed' : 'options'}>
          {answers.map((answer) => (
            <label key={answer} className={isOne ? undefined : 'option'}>
              <input
                type={isOne ? 'radio' : 'checkbox'}
                name={field.key}
                value={answer}
                defaultChecked={sent.includes(answer)}
                required={isOne && field.required}
              />{' '}
              <span dir="auto">{inWords(answer)}</span>
            </label>
          ))}
        </div>
      );
    }
  }
}
