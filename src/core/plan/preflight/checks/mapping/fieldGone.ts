import { fieldsFor } from '../../../catalogue.ts';
import { targetCheck } from '../../check.ts';

export const fieldGone = targetCheck({
  code: 'mapped to a field that is gone',
  level: 'warning',
  why: 'The answers are nowhere; the destination may even refuse the person.',
  find: ({ target, catalogue }) => {
    const there = fieldsFor(catalogue, target);
    return target.lines
      .filter(({ to }) => !there.some(({ key }) => key === to))
      .map(({ to }) => ({
        part: 'mapping',
        message: `"${to}" is mapped, but is no field there any more.`,
        fix: 'Remove the line, or make the field there again.',
      }));
  },
});
