import { byIwashi, type Check } from '../../check.ts';

export const noSubject: Check = {
  code: 'the confirmation mail has no subject',
  level: 'blocker',
  why: 'A mail without a subject is taken for what nobody asked for, and is not opened.',
  find: (checked) =>
    byIwashi(checked) && checked.document.consent.mail.subject.trim() === ''
      ? [{ part: 'consent', message: 'The confirmation mail has no subject.', fix: 'Write one.' }]
      : [],
};
