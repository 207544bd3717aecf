import { answersIn, endingFor, filledIn, type FormLanguage } from '../../../core/forms/index.ts';
import type { FormDocument } from '../../../core/intake/index.ts';
import { inWords, type FieldValues } from '../../../core/values/index.ts';
import { prefixFor, printEnding } from '../../../forms/index.ts';
import type { SentPart } from '../../../contract/placing.ts';
import type { Context } from '../../context.ts';
import { signForBrowser } from '../../intake/visitors.ts';
import type { LiveSource } from './liveSources.ts';

/** What was taken, and what it goes on with. */
export interface Outcome {
  ids: string[];
  source: LiveSource;
  answers: FieldValues;
  /** What is known of the visitor. */
  known: FieldValues;
}

/** What comes after a form was sent, by what was answered. */
export function afterSending(context: Context, { ids, source, answers, known }: Outcome) {
  const { now } = context;
  const document = source.live as FormDocument;
  const ending = endingFor(document, { values: answers, known, now: now() });
  const answerOf = (field: string): string => inWords(answers[field]);
  const next = ending.next === '' ? null : filledIn(ending.next, answerOf);
  const own = `/in/${source.publicId}/thanks${ending.id === '' ? '' : `?ending=${encodeURIComponent(ending.id)}`}`;
  return {
    ending,
    answerOf,
    /** Whether it can only be shown in answer to what was sent: an address of ours holds no answers. */
    isOwnPage: next === null && ending.link !== null && answersIn(ending.link.url).length > 0,
    location: next ?? own,
    /** What a script puts in the place of the form. */
    part: (language: FormLanguage): SentPart => {
      const { html } = printEnding(prefixFor(source.publicId), document.look, language, ending, answerOf);
      const visitor = signForBrowser(context, ids[0] ?? '');
      return { html, taken: true, next, seconds: ending.seconds, visitor };
    },
  };
}
