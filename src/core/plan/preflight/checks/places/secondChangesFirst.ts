import { targetCheck } from '../../check.ts';

export const secondChangesFirst = targetCheck({
  code: 'a second record would change the first',
  level: 'warning',
  why: "Each is a thing of its own: somebody's second enquiry is no correction of their first.",
  find: ({ target, catalogue: { can, kinds } }) => {
    const kind = kinds.find(({ id }) => id === target.kind);
    return kind?.repeats && target.duplicates !== 'add' && can.duplicates.includes('add')
      ? [
          {
            part: 'target',
            message: `Each ${kind.name} is a thing of its own, and somebody's second one would change the first ("${target.duplicates}").`,
            fix: 'Choose "Add another" for who is there already.',
          },
        ]
      : [];
  },
});
