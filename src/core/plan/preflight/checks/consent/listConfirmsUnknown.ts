import { confirmingLists, type Check } from '../../check.ts';

export const listConfirmsUnknown: Check = {
  code: 'a list confirms, and the route does not know it',
  level: 'warning',
  why: 'People are counted as reached before they answered the mail of the list.',
  find: (checked) => {
    const { asks, confirmedBy } = checked.document.consent;
    if (asks.length === 0 || confirmedBy.by !== 'nobody') return [];
    return confirmingLists(checked)
      .filter(({ list }) => list.confirms)
      .map(({ list, index }) => ({
        part: 'consent',
        target: index,
        message: `${list.name} asks people to confirm, and the route does not know it.`,
        fix: 'Choose that it confirms.',
      }));
  },
};
