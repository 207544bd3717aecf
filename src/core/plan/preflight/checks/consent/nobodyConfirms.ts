import { confirmingLists, type Check } from '../../check.ts';

export const nobodyConfirms: Check = {
  code: 'single opt-in',
  level: 'hint',
  why: "It grows faster, and what grows is in part mistyped or somebody else's address.",
  find: (checked) => {
    const { asks, confirmedBy } = checked.document.consent;
    return asks.length > 0 && confirmedBy.by === 'nobody' && !confirmingLists(checked).some(({ list }) => list.confirms)
      ? [
          {
            part: 'consent',
            message:
              'Single opt-in: typing mistakes and robots reach the list, and nobody proves that the address is theirs.',
            fix: 'Choose double opt-in unless you know why not.',
          },
        ]
      : [];
  },
};
