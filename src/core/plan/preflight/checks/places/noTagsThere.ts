import { targetCheck } from '../../check.ts';

export const noTagsThere = targetCheck({
  code: 'there are no tags there',
  level: 'warning',
  why: 'They would be set nowhere, and nobody would be found by them.',
  find: ({ target, catalogue: { can } }) =>
    !can.tags && target.tags.length > 0
      ? [
          {
            part: 'tags',
            message: 'This kind of service has no tags; those set here go nowhere.',
            fix: 'Take the tags away.',
          },
        ]
      : [],
});
