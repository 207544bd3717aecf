import { targetCheck } from '../../check.ts';

export const noKind = targetCheck({
  code: 'no kind of record is chosen',
  level: 'blocker',
  why: 'What is made there is of a kind; without one nothing can be made.',
  find: ({ target, catalogue: { can, kinds } }) =>
    can.kinds && target.kind === '' && !kinds.some(({ id }) => id === '')
      ? [
          {
            part: 'target',
            message: `No ${can.calls.kind} is chosen.`,
            fix: `Choose which ${can.calls.kind} is to be filled.`,
          },
        ]
      : [],
});
