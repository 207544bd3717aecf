import type { FieldValues } from '../values/index.ts';
import type { SaidParts } from './shopParts.ts';
import type { SourceDocument } from './source.ts';

/** What a source says of what people agreed to elsewhere; null where they say it here. */
export const saidPartsOf = (document: SourceDocument): SaidParts | null =>
  document.kind === 'shop' || document.kind === 'registration' ? document : null;

/** What somebody said elsewhere of one consent. */
export interface SaidThere {
  /** '' where it does not say. */
  words: string;
  /** Milliseconds since 1970; null where it does not say. */
  at: number | null;
  /** Whether a no in it takes back a yes of before, rather than being a box that was left alone. */
  takesBack: boolean;
}

/** What came from elsewhere says of what its person agreed to, by the fields of the answers. */
export function saidThere(document: SaidParts, values: FieldValues): Record<string, SaidThere> {
  const takesBack = saysAnew(document, values);
  return Object.fromEntries(
    document.answers.map(({ field, words, at }) => {
      const time = Date.parse(textOf(values, at));
      return [field, { words: textOf(values, words), at: Number.isNaN(time) ? null : time, takesBack }];
    }),
  );
}

/** Whether it is of a kind by which people say anew what they want: only a no in such a one takes back a yes. */
export const saysAnew = ({ saidBy, kindField }: SaidParts, values: FieldValues): boolean =>
  saidBy.includes(textOf(values, kindField));

/** Whether something was only tried out, as with a card that is for that. */
export const isTried = ({ testField }: SaidParts, values: FieldValues): boolean => values[testField] === true;

function textOf(values: FieldValues, field: string): string {
  const value = values[field];
  return typeof value === 'string' ? value : '';
}
