import { asksOf, fieldsAskedFor, isOfKnown, testsIn, type Condition } from '../../conditions/index.ts';
import { factFields } from '../../intake/index.ts';
import type { SourceField } from '../../values/index.ts';
import { blocker, type Finding } from './finding.ts';

/** Whether a condition can be decided at all. @param about.what it is of, as in "It goes for some people only" */
export function conditionFindings(
  when: Condition | null,
  fields: SourceField[],
  { part, what, knowledge }: { part: Finding['part']; what: string; knowledge: SourceField[] },
): Finding[] {
  if (when === null) return [];
  const known = [...factFields(fields), ...knowledge];
  const gone = fieldsAskedFor(when).filter((field) => !known.some(({ id }) => id === field));
  const findings = gone.map((field) =>
    isOfKnown(field)
      ? blocker(
          part,
          `${what} for some people only, by a purpose, list or tag that is not there any more.`,
          'Choose another one.',
        )
      : blocker(
          part,
          `${what} for some people only, by "${field}", which the live source does not have.`,
          'Choose another field, or publish the source if it is new.',
        ),
  );
  if (testsIn(when).some(({ test, value }) => asksOf(test) !== 'nothing' && value.trim() === ''))
    findings.push(blocker(part, 'A condition is compared with nothing.', 'Enter what it is compared with.'));
  return findings;
}
