import type { Check } from '../../check.ts';

export const needNotAsked: Check = {
  code: 'a target needs what nobody is asked for',
  level: 'blocker',
  why: 'Nobody could give it, so nobody would go there.',
  find: ({ document: { targets, consent } }) =>
    targets.flatMap(({ needs }, index) =>
      needs !== null && !consent.asks.some(({ id }) => id === needs.ask)
        ? [
            {
              part: 'consent' as const,
              target: index,
              message: 'A target needs a consent that is not asked for.',
              fix: 'Choose one that is, or none.',
            },
          ]
        : [],
    ),
};
