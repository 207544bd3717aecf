import type { Check } from '../../check.ts';

export const branchNeverReached: Check = {
  code: 'a target is never reached',
  level: 'warning',
  why: 'Of targets of which only one is taken, the first that is for everybody ends it: those after it are for nobody.',
  find: ({ document: { targets } }) =>
    targets.flatMap(({ branch }, index) => {
      const before = branch === null ? -1 : targets.findIndex((one) => one.branch === branch && one.when === null);
      return before < 0 || before >= index
        ? []
        : [
            {
              part: 'target' as const,
              target: index,
              message: `Nobody goes there: target ${before + 1}, which comes before it, is for everybody.`,
              fix: 'Say for whom the earlier one is, or let this one stand by itself.',
            },
          ];
    }),
};
