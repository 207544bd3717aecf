import { targetCheck } from '../../check.ts';

export const tagsStayOn = targetCheck({
  code: 'tags cannot be taken off there',
  level: 'warning',
  why: 'The service does not do it, so they stay.',
  find: ({ target, catalogue: { can } }) =>
    target.tagsOff.length > 0 && !can.untags
      ? [{ part: 'tags', message: 'This kind of service takes no tags off people.', fix: 'Empty "Tags taken off".' }]
      : [],
});
