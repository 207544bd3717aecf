import { targetCheck } from '../../check.ts';

export const groupGone = targetCheck({
  code: 'the group is not in the list',
  level: 'blocker',
  why: 'The destination refuses people who are to go into what it does not have.',
  find: ({ target, catalogue: { can, lists } }) =>
    can.lists
      ? target.places.flatMap(({ list: id, group }) => {
          const list = lists.find((one) => one.id === id);
          return list && group !== '' && !list.groups.some((one) => one.id === group)
            ? [
                {
                  part: 'target' as const,
                  message: `The chosen ${can.calls.group} is not in ${list.name}.`,
                  fix: `Choose another ${can.calls.group}, or none.`,
                },
              ]
            : [];
        })
      : [],
});
