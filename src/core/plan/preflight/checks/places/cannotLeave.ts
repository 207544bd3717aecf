import { leaving, targetCheck } from '../../check.ts';

export const cannotLeave = targetCheck({
  code: 'people cannot be taken out there',
  level: 'warning',
  why: 'The service does not do it, so they stay where they are.',
  find: (checked) =>
    leaving(checked)
      .filter(({ can }) => !can)
      .map(({ word, name }) => ({
        part: 'target',
        message: `This kind of service takes nobody out of a ${word}.`,
        fix: `Take ${name} off "Take out of".`,
      })),
});
