import { targetCheck } from '../../check.ts';

export const listGone = targetCheck({
  code: 'the list is gone',
  level: 'blocker',
  why: 'The destination refuses people who are to go into what it does not have.',
  find: ({ target, catalogue: { can, lists } }) =>
    can.lists
      ? target.places
          .filter(({ list }) => list !== '' && !lists.some(({ id }) => id === list))
          .map(() => ({
            part: 'target',
            message: `The chosen ${can.calls.list} is gone there.`,
            fix: `Choose another ${can.calls.list}.`,
          }))
      : [],
});
