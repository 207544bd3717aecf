import { confirmingLists, type Check } from '../../check.ts';

export const twoConfirm: Check = {
  code: 'two systems confirm',
  level: 'blocker',
  why: 'People get two mails that ask the same, answer one of them, and are still not confirmed in the other.',
  find: (checked) => {
    const { asks, confirmedBy } = checked.document.consent;
    if (asks.length === 0 || confirmedBy.by === 'nobody') return [];
    return confirmingLists(checked)
      .filter(
        ({ list, target }) =>
          list.confirms &&
          !(confirmedBy.by === 'target' && confirmedBy.targetId === target.id) &&
          // What is sent once people confirmed says so, and is believed there.
          !checked.catalogues[target.connectionId]?.can.takesProof,
      )
      .map(({ list, index }) => ({
        part: 'consent',
        target: index,
        message: `${list.name} asks people to confirm as well: they would get two mails.`,
        fix: 'Switch its confirmation off there and verify the connection, or choose that it confirms.',
      }));
  },
};
