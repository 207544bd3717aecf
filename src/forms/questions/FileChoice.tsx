import { keptName } from '../../core/forms/index.ts';
import { inBytes } from '../../core/values/index.ts';
import type { QuestionShown } from '../shown.ts';
import { Label, namedBy, stateOf } from './Label.tsx';

/** A file to send along; one that came with an earlier try need not be chosen again. */
export function FileChoice({ shown, accept }: { shown: QuestionShown; accept: string }) {
  const { field, id, filled, say, language } = shown;
  const kept = filled.kept[field.key];
  const { required, ...state } = stateOf(shown);
  const { placeholder: _, ...named } = namedBy({ ...shown, labels: 'above' });
  return (
    <>
      <Label shown={{ ...shown, labels: 'above' }} />
      <input
        type="file"
        id={id}
        name={field.key}
        accept={accept || undefined}
        required={required && !kept}
        {...named}
        {...state}
      />
      {kept && (
        <>
          <p className="help">{say('kept', { name: kept.name, size: inBytes(kept.size, language) })}</p>
          <input type="hidden" name={keptName(field.key)} value={kept.token} />
        </>
      )}
    </>
  );
}
