import { mailCheck } from '../../check.ts';

export const waitsForNothing = mailCheck({
  code: 'a mail waits for what never comes',
  level: 'warning',
  why: 'It goes out at once, before anybody confirmed.',
  find: ({ mail, document }) =>
    mail.after === 'confirmed' && document.consent.confirmedBy.by !== 'iwashi'
      ? [
          {
            message: `"${mail.subject}" waits for a confirmation, and Iwashi asks for none here: it goes out at once.`,
            fix: 'Choose that it goes out at once, or let Iwashi confirm.',
          },
        ]
      : [],
});
