import { confirmingLists, type Check } from '../../check.ts';

export const confirmerUnknown: Check = {
  code: 'whether people are asked to confirm cannot be seen',
  level: 'warning',
  why: 'If it does not, nobody does.',
  find: (checked) => {
    const { asks, confirmedBy } = checked.document.consent;
    if (asks.length === 0 || confirmedBy.by !== 'target') return [];
    const isThere = checked.document.targets.some(({ id }) => id === confirmedBy.targetId);
    const own = confirmingLists(checked).filter(({ target }) => target.id === confirmedBy.targetId);
    const isKnown =
      own.some(({ list }) => list.confirms === true) ||
      (own.length > 0 && own.every(({ list }) => list.confirms === false));
    return isThere && !isKnown
      ? [
          {
            part: 'consent',
            message: 'Whether the destination really asks people to confirm cannot be seen from here.',
            fix: 'Sign up as a new visitor, and see that its mail comes.',
          },
        ]
      : [];
  },
};
