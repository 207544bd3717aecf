import type { FieldValue } from '../../../../values/index.ts';
import { listsOf } from '../../../catalogue.ts';
import { quoted, targetCheck } from '../../check.ts';

/** Common practice, no source: how people call who does not exist. */
const TEST_WORD = /(?<!\p{L})(?:tests?|testing|tester|asdf+|qwertz?y?|foo|dummy)(?!\p{L})/iu;

/** Names that lead to nobody: RFC 2606, sections 2 and 3; `.example` is left to demonstrations such as our own. */
const NOBODYS = /@(?:[^@]*\.)?(?:example\.(?:com|net|org)|[^@.]*\.?(?:test|invalid|localhost))$/i;

const isTest = (value: FieldValue | undefined): boolean =>
  typeof value === 'string' && (NOBODYS.test(value) || (value.length < 60 && TEST_WORD.test(value)));

export const testPeople = targetCheck({
  code: 'test data would go into a list',
  level: 'warning',
  why: 'Who tries a form out leaves people behind who do not exist: mail to them comes back, and counts against the sender.',
  find: ({ target, catalogue, source, samples }) => {
    const lists = listsOf(catalogue, target).filter(({ name }) => !TEST_WORD.test(name));
    const who = source.fields.filter(({ type, keepAs }) => type === 'email' || keepAs.includes('name'));
    const hasTests = samples.some((values) => who.some(({ id }) => isTest(values[id])));
    return target.when === null && lists.length > 0 && hasTests
      ? [
          {
            part: 'target' as const,
            // Without a count: what somebody lets stand is known again by what it says.
            message: `Of what came of late, some looks like tests, and would go into ${quoted(lists.map(({ name }) => name))}.`,
            fix: 'Say for whom this target is, such as everybody whose address does not contain "test"; or take the tests out there.',
          },
        ]
      : [];
  },
});
