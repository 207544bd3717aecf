import type { Check } from '../../check.ts';

export const leadsNowhere: Check = {
  code: 'it leads nowhere',
  level: 'blocker',
  why: 'People would be kept in Iwashi, arrive in no other system, and nobody would be told of them.',
  find: ({ document }) =>
    document.targets.length > 0 || document.mails.some(({ kind }) => kind === 'notify')
      ? []
      : [
          {
            part: 'target',
            message: 'It leads nowhere yet.',
            fix: 'Choose a connection, or add a mail that tells a colleague.',
          },
        ],
};
