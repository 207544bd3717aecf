import { byIwashi, type Check } from '../../check.ts';

/** Common practice, with no published source: mail is read within a day or two. */
const SHORTEST_HOURS = 24;

export const shortTime: Check = {
  code: 'little time to confirm',
  level: 'hint',
  why: 'Whoever reads their mail the next day finds a link that is over, and gives up.',
  find: (checked) =>
    byIwashi(checked) && checked.document.consent.expiresHours < SHORTEST_HOURS
      ? [
          {
            part: 'consent',
            message: `The link in the confirmation mail is over after ${checked.document.consent.expiresHours} hours.`,
            fix: 'Give people two or three days.',
          },
        ]
      : [],
};
