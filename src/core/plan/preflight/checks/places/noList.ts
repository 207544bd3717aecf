import { targetCheck } from '../../check.ts';

export const noList = targetCheck({
  code: 'no list is chosen',
  level: 'warning',
  why: 'People will exist there but be on no mailing list.',
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
