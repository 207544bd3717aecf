import { mailCheck } from '../../check.ts';

export const tellsNobody = mailCheck({
  code: 'a mail tells nobody',
  level: 'blocker',
  why: 'Leads that are answered quickly close; this one is read by nobody.',
  find: ({ mail }) =>
    mail.kind === 'notify' && mail.to.length === 0
      ? [{ message: `"${mail.subject}" tells nobody: it has no address.`, fix: 'Enter the address of a colleague.' }]
      : [],
});
