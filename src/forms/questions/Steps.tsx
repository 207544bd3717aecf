import type { Control } from '../../core/forms/index.ts';
import type { QuestionShown } from '../shown.ts';

interface StepsProps {
  shown: QuestionShown;
  control: Extract<Control, { kind: 'steps' }>;
}

/** A number that is one of a few steps: stars, or figures in a row, with what its ends mean below. */
export function Steps({ shown, control: { as, range } }: StepsProps) {
  const { field, sent, say } = shown;
  const steps = Array.from({ length: Math.max(0, range.to - range.from + 1) }, (_, at) => range.from + at);
  return (
    <>
      <div className={as === 'stars' ? 'pressed stars' : 'pressed'}>
        {steps.map((step) => (
          <label key={step}>
            <input
              type="radio"
              name={field.key}
              value={step}
              defaultChecked={sent[0] === String(step)}
              required={field.required}
              aria-label={as === 'stars' ? say('steps', { step, most: range.to }) : undefined}
            />
            <span aria-hidden={as === 'stars' ? true : undefined}>{as === 'stars' ? '★' : step}</span>
          </label>
        ))}
      </div>
      {(range.low !== '' || range.high !== '') && (
        <p className="ends" dir="auto">
          <span>{range.low}</span>
          <span>{range.high}</span>
        </p>
      )}
    </>
  );
}
