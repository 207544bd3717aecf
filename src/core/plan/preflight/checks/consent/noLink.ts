import { byIwashi, type Check } from '../../check.ts';

export const noLink: Check = {
  code: 'the confirmation mail has no link',
  level: 'blocker',
  why: 'Nobody could confirm, and everybody would wait.',
  find: (checked) =>
    byIwashi(checked) && !checked.document.consent.mail.body.includes('{link}')
      ? [
          {
            part: 'consent',
            message: 'The confirmation mail has no link.',
            fix: 'Put {link} where the link belongs.',
          },
        ]
      : [],
};
