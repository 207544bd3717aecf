import type { Check } from '../../check.ts';

export const needsNothing: Check = {
  code: 'a target needs no consent',
  level: 'hint',
  why: 'People go there also when they left the box unticked.',
  find: ({ document: { targets, consent } }) =>
    // What everybody gives by sending the form is lacking to nobody.
    consent.asks.every(({ tickField }) => tickField === '')
      ? []
      : targets.flatMap(({ needs }, index) =>
          needs === null
            ? [
                {
                  part: 'consent' as const,
                  target: index,
                  message: 'A target needs no consent: people go there also when they did not tick.',
                  fix: 'Choose what it needs, unless people asked for it by sending the form.',
                },
              ]
            : [],
        ),
};
