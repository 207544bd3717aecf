import type { Check } from '../../check.ts';

/** What can stand in braces in a confirmation mail. */
const KNOWN = new Set(['link']);

export const confirmationPlaceholders: Check = {
  code: 'a broken placeholder in the confirmation mail',
  level: 'blocker',
  why: 'It is sent as it stands, braces and all, to everybody who has to confirm.',
  find: ({ document: { consent } }) => {
    if (consent.confirmedBy.by !== 'iwashi' || consent.asks.length === 0) return [];
    const { subject, body, button } = consent.mail;
    const broken = [...`${subject}\n${body}\n${button}`.matchAll(/\{([^{}\n]{0,40})\}/g)]
      .map(([, name = '']) => name)
      .filter((name) => !KNOWN.has(name));
    return broken.length === 0
      ? []
      : [
          {
            part: 'consent' as const,
            message: `The confirmation mail has {${[...new Set(broken)].join('}, {')}} in it, which is nothing that can be filled in.`,
            fix: 'Write {link} for the link, and everything else in words.',
          },
        ];
  },
};
