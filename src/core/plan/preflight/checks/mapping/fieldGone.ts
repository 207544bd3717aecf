import { fieldsFor } from '../../../catalogue.ts';
import { targetCheck } from '../../check.ts';

export const fieldGone = targetCheck({
  code: 'mapped to a field that is gone',
  level: 'blocker',
  why: 'Nothing that is sent carries it: the answers would be nowhere, and the destination may even refuse the person.',
  find: ({ target, catalogue }) => {
    const there = fieldsFor(catalogue, target);
    return target.lines
      .filter(({ to }) => !there.some(({ key }) => key === to))
      .map(({ to }) => ({
        part: 'mapping',
        message: `"${to}" is mapped, but is no field there any more, or none that a request carries.`,
        fix: 'Remove the line, or make the field there again.',
      }));
  },
});
