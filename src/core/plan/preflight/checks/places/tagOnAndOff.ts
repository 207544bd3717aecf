import { targetCheck } from '../../check.ts';

export const tagOnAndOff = targetCheck({
  code: 'a tag is set and taken off',
  level: 'blocker',
  why: 'Which of the two comes last is chance.',
  find: ({ target: { tags, tagsOff } }) => {
    const both = tagsOff.filter((tag) => tags.some((set) => set.tag === tag));
    return both.length > 0
      ? [
          {
            part: 'tags',
            message: `Set and taken off by the same target: ${both.join(', ')}.`,
            fix: 'Do one of the two.',
          },
        ]
      : [];
  },
});
