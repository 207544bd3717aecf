import { targetCheck } from '../../check.ts';

export const impossiblePolicy = targetCheck({
  code: 'the service cannot treat those who are there so',
  level: 'blocker',
  why: 'What was chosen for people who are there already would not happen.',
  find: ({ target: { duplicates }, catalogue: { can } }) =>
    can.duplicates.includes(duplicates)
      ? []
      : [
          {
            part: 'target',
            message: `This kind of service cannot "${duplicates}" who is there already.`,
            fix: `Choose ${can.duplicates.map((policy) => `"${policy}"`).join(' or ')}.`,
          },
        ],
});
