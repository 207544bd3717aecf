import type { Control } from '../../core/forms/index.ts';
import type { QuestionShown } from '../shown.ts';
import { Label, namedBy, stateOf } from './Label.tsx';

interface ChoicesProps {
  shown: QuestionShown;
  control: Extract<Control, { kind: 'answers' }>;
}

/** One of several answers, or several of them: a list, a list that is searched by typing, buttons, boxes or pictures. */
export function Choices({ shown, control: { as, answers, several } }: ChoicesProps) {
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
    case 'pictures':
      return (
        <div className="pressed pictures">
          {answers.map((answer, at) => (
            <label key={answer}>
              <input
                type={several ? 'checkbox' : 'radio'}
                name={field.key}
                value={answer}
                defaultChecked={sent.includes(answer)}
                required={!several && field.required}
              />
              {/* What it shows is said by the answer below it. */}
              {field.pictures[at] && <img src={field.pictures[at]} alt="" loading="lazy" />}
              <span dir="auto">{answer}</span>
            </label>
          ))}
        </div>
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
