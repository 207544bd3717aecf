import { byIwashi, type Check } from '../../check.ts';

export const confirmsNothing: Check = {
  code: 'a mail confirms nothing',
  level: 'warning',
  why: "That an address is somebody's own proves nothing of a telephone.",
  find: (checked) =>
    byIwashi(checked) && !checked.document.consent.asks.some(({ channels }) => channels.includes('email'))
      ? [
          {
            part: 'consent',
            message: 'A mail confirms only consent by email, and nobody is asked for that.',
            fix: 'Ask for it, or let nobody confirm.',
          },
        ]
      : [],
};
