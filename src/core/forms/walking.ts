import { decide, type Condition } from '../conditions/index.ts';
import type { FieldValues } from '../values/index.ts';
import type { Ending, EndingIf } from './endings.ts';
import type { Questions } from './items.ts';
import { pagesOf, pathOf, type Path } from './pages.ts';
import { knownFor } from './visitors.ts';

/** What conditions on a form go by. */
export interface WalkFacts {
  values: FieldValues;
  /** What is known of the visitor, by the ids of such facts. */
  known: FieldValues;
  now: number;
}

/** The way through a form by values, as the visitor's browser goes it by what is typed. */
export function walk(form: Questions, { values, known, now }: WalkFacts): Path {
  const pages = pagesOf(form);
  const hidden = new Set(form.fields.filter(({ widget }) => widget === 'hidden').map(({ id }) => id));
  return pathOf(pages, (when, asked) => {
    const told = Object.entries(values).filter(([id]) => hidden.has(id) || asked.has(id));
    return holds(when, { values: { ...Object.fromEntries(told), ...knownFor(when, known) }, now });
  });
}

const holds = (when: Condition, facts: { values: FieldValues; now: number }): boolean =>
  decide(when, facts, []).verdict === 'holds';

/** What stands at the end for somebody who answered so. @param values of what was asked */
export const endingFor = (
  { ending, endings }: { ending: Ending; endings: EndingIf[] },
  { values, known, now }: WalkFacts,
): Ending & { id: string } =>
  endings.find(({ when }) => holds(when, { values: { ...values, ...knownFor(when, known) }, now })) ?? {
    ...ending,
    id: '',
  };
