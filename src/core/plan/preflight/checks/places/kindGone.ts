import { targetCheck } from '../../check.ts';

export const kindGone = targetCheck({
  code: 'the kind of record is gone',
  level: 'blocker',
  why: 'The destination refuses what is of a kind that it does not know.',
  find: ({ target, catalogue: { can, kinds } }) =>
    can.kinds && target.kind !== '' && !kinds.some(({ id }) => id === target.kind)
      ? [
          {
            part: 'target',
            message: `The chosen ${can.calls.kind} is gone there.`,
            fix: `Choose another ${can.calls.kind}.`,
          },
        ]
      : [],
});
