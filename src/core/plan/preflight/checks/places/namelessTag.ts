import { targetCheck } from '../../check.ts';

export const namelessTag = targetCheck({
  code: 'a tag has no name',
  level: 'blocker',
  why: 'There is nothing to set, although somebody said for whom.',
  find: ({ target: { tags } }) =>
    tags.some(({ tag }) => tag.trim() === '')
      ? [{ part: 'tags', message: 'A tag has no name.', fix: 'Name it, or take it away.' }]
      : [],
});
