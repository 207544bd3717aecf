import type { Check } from '../../check.ts';

export const confirmerGone: Check = {
  code: 'who is to confirm is not in the route',
  level: 'blocker',
  why: 'Nobody would be asked, and everybody would count as asked.',
  find: ({ document: { consent, targets } }) => {
    const { confirmedBy, asks } = consent;
    return asks.length > 0 && confirmedBy.by === 'target' && !targets.some(({ id }) => id === confirmedBy.targetId)
      ? [
          {
            part: 'consent',
            message: 'The target that is to confirm is not in the route.',
            fix: 'Choose who confirms.',
          },
        ]
      : [];
  },
};
