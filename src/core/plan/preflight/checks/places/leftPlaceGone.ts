import { leaving, targetCheck } from '../../check.ts';

export const leftPlaceGone = targetCheck({
  code: 'what people are taken out of is gone',
  level: 'blocker',
  why: 'The destination answers with an error, and the delivery is held.',
  find: (checked) =>
    leaving(checked)
      .filter(({ can, isThere }) => can && !isThere)
      .map(({ word }) => ({
        part: 'target',
        message: `A ${word} that people are taken out of is gone there.`,
        fix: 'Take it off "Take out of".',
      })),
});
