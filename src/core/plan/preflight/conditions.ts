import { fieldsAskedFor, TESTS, testsIn, type Condition } from '../../conditions/index.ts';
import { factFields } from '../../intake/index.ts';
import type { SourceField } from '../../values/index.ts';
import { blocker, type Finding } from './finding.ts';

/** Whether a condition can be decided at all. @param about.what it is of, as in "It goes for some people only" */
export function conditionFindings(
  when: Condition | null,
  fields: SourceField[],
  { part, what }: { part: Finding['part']; what: string },
): Finding[] {
  if (when === null) return [];
  const known = factFields(fields);
  const gone = fieldsAskedFor(when).filter((field) => !known.some(({ id }) => id === field));
  const findings = gone.map((field) =>
    blocker(
      part,
      `${what} for some people only, by "${field}", which the live source does not have.`,
      'Choose another field, or publish the source if it is new.',
    ),
  );
  if (testsIn(when).some(({ test, value }) => TESTS[test].needsValue && value.trim() === ''))
    findings.push(blocker(part, 'A condition is compared with nothing.', 'Enter what it is compared with.'));
  return findings;
}
