import { asksForAddress } from '../../../../identity/index.ts';
import { mailCheck } from '../../check.ts';

export const answerWithoutAddress = mailCheck({
  code: 'an answer has nowhere to go',
  level: 'blocker',
  why: 'Nobody would get it.',
  find: ({ mail, source }) =>
    mail.kind === 'answer' && !asksForAddress(source.fields)
      ? [
          {
            message: `"${mail.subject}" answers the visitor, and the source asks for no address.`,
            fix: 'Add an email field to the source, or take the answer away.',
          },
        ]
      : [],
});
