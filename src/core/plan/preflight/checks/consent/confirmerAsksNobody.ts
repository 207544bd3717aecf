import { confirmingLists, type Check } from '../../check.ts';

export const confirmerAsksNobody: Check = {
  code: 'who is to confirm asks nobody',
  level: 'blocker',
  why: 'Typing mistakes and robots reach the list, although everybody thinks that they are kept out.',
  find: (checked) => {
    const { asks, confirmedBy } = checked.document.consent;
    if (asks.length === 0 || confirmedBy.by !== 'target') return [];
    const own = confirmingLists(checked).filter(({ target }) => target.id === confirmedBy.targetId);
    const [first] = own;
    return first && own.every(({ list }) => list.confirms === false)
      ? [
          {
            part: 'consent',
            message: `${first.list.name} asks nobody to confirm, so nobody would.`,
            fix: 'Switch its confirmation on there and verify the connection, or let Iwashi confirm.',
          },
        ]
      : [];
  },
};
