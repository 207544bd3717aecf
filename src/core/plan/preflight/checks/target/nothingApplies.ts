import type { Check } from '../../check.ts';

export const nothingApplies: Check = {
  code: 'for some people nothing applies',
  level: 'hint',
  why: 'Whoever fits none of the conditions is kept in Iwashi and goes nowhere, which is easily forgotten.',
  find: ({ document: { targets } }) =>
    targets.length === 0 || targets.some(({ when }) => when === null)
      ? []
      : [
          {
            part: 'target',
            message: 'Every target is for some people only: for whoever fits none, it stops here.',
            fix: 'Add a target for everybody else, or leave it if that is meant.',
          },
        ],
};
