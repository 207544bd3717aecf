import { targetCheck } from '../../check.ts';

export const oneListOnly = targetCheck({
  code: 'only the first list is taken',
  level: 'blocker',
  why: 'No request of this destination names more than one list: people would never be in the others.',
  find: ({ target, catalogue: { can }, connection }) =>
    can.oneList === true && new Set(target.places.map(({ list }) => list)).size > 1
      ? [
          {
            part: 'target',
            message: `${connection?.name ?? 'The destination'} takes one ${can.calls.list} for each person, and here are several.`,
            fix: 'Leave one here, and add a target for each of the others.',
          },
        ]
      : [],
});
