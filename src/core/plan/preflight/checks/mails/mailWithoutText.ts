import { mailCheck } from '../../check.ts';

export const mailWithoutText = mailCheck({
  code: 'a mail has no text',
  level: 'blocker',
  why: 'Whoever opens it finds nothing.',
  find: ({ mail }) =>
    mail.body.trim() === '' ? [{ message: `"${mail.subject}" has no text.`, fix: 'Write one.' }] : [],
});
