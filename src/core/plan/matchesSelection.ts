import { decide, fieldsAskedFor, isOfKnown, type Condition } from '../conditions/index.ts';
import { factFields, factsOf } from '../intake/index.ts';
import type { PlanInput } from './input.ts';
import { knowledgeOf } from './knowledge.ts';

/** Whether a condition asks for what is known of people, beside what they send. */
export const isOfPeople = (when: Condition | null): boolean => when !== null && fieldsAskedFor(when).some(isOfKnown);

/** Whether a submission is one of those that somebody chose; without a condition every one is. What nobody can say is no yes. */
export function matchesSelection(
  when: Condition | null,
  {
    fields,
    values,
    visit,
    known,
    knowledge = [],
    now,
  }: Pick<PlanInput, 'fields' | 'values' | 'visit' | 'known' | 'knowledge' | 'now'>,
): boolean {
  if (when === null) return true;
  const facts = { ...factsOf(values, visit), ...knowledgeOf(known) };
  return decide(when, { values: facts, now }, [...factFields(fields), ...knowledge]).verdict === 'holds';
}
