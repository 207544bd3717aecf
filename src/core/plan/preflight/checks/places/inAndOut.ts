import { leaving, targetCheck } from '../../check.ts';

export const inAndOut = targetCheck({
  code: 'put in and taken out again',
  level: 'blocker',
  why: 'Which of the two comes last is chance.',
  find: (checked) =>
    leaving(checked)
      .filter(
        ({ can, isThere, list, group }) =>
          can &&
          isThere &&
          checked.target.places.some((place) => (group === '' ? place.list === list : place.group === group)),
      )
      .map(({ name }) => ({
        part: 'target',
        message: `People are put into ${name} and taken out of it again.`,
        fix: 'Do one of the two.',
      })),
});
