import { targetCheck } from '../../check.ts';

export const noList = targetCheck({
  code: 'no list is chosen',
  level: 'warning',
  why: 'People are known there then, and in nothing that is ever mailed.',
  find: ({ target, catalogue: { can } }) =>
    can.lists && target.places.every(({ list }) => list === '')
      ? [
          {
            part: 'target',
            message: `No ${can.calls.list} is chosen, so people arrive in none.`,
            fix: `Choose a ${can.calls.list}.`,
          },
        ]
      : [],
});
