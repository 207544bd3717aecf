import type { Check } from '../../check.ts';

export const changedUnpublished: Check = {
  code: 'the source has unpublished changes',
  level: 'warning',
  why: 'Visitors still meet the form as it was published; what was changed since takes no part, however often it is looked at.',
  find: ({ isSourceChanged }) =>
    isSourceChanged
      ? [
          {
            part: 'source',
            message: 'The source was changed, and the changes are not published.',
            fix: 'Publish the source, or take the changes back.',
          },
        ]
      : [],
};
