import { mailCheck } from '../../check.ts';

export const mailWithoutSubject = mailCheck({
  code: 'a mail has no subject',
  level: 'blocker',
  why: 'It is taken for what nobody asked for, and is not opened.',
  find: ({ mail }) => (mail.subject.trim() === '' ? [{ message: 'A mail has no subject.', fix: 'Write one.' }] : []),
});
