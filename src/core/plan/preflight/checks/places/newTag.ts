import { targetCheck } from '../../check.ts';

export const newTag = targetCheck({
  code: 'a tag is not there yet',
  level: 'hint',
  why: 'It is made when somebody first gets it. If another one was meant, there are two then that mean the same.',
  find: ({ target: { tags }, catalogue }) => {
    const there = new Set(catalogue.tags.map(({ name }) => name));
    const missing = [...new Set(tags.map(({ tag }) => tag))].filter((tag) => tag.trim() !== '' && !there.has(tag));
    return catalogue.can.tags && missing.length > 0
      ? [
          {
            part: 'tags',
            message: `Not there yet: the ${missing.length === 1 ? 'tag' : 'tags'} ${missing.join(', ')}.`,
            fix: 'Leave it if new ones are meant; otherwise choose one that is there.',
          },
        ]
      : [];
  },
});
