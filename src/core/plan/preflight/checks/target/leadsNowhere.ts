import type { Check } from '../../check.ts';

export const leadsNowhere: Check = {
  code: 'it leads nowhere',
  level: 'blocker',
  why: 'People would be kept in Iwashi, and arrive in no other system.',
  find: ({ document }) =>
    document.targets.length > 0
      ? []
      : [{ part: 'target', message: 'It leads nowhere yet.', fix: 'Choose a connection.' }],
};
