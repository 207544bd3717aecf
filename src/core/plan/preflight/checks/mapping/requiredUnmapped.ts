import { requiredFirst } from '../../../../mapping/index.ts';
import { fieldsFor } from '../../../catalogue.ts';
import { targetCheck } from '../../check.ts';

export const requiredUnmapped = targetCheck({
  code: 'required there and not mapped',
  level: 'blocker',
  why: 'The destination refuses everybody, one by one.',
  find: ({ target, catalogue }) =>
    requiredFirst(fieldsFor(catalogue, target))
      .filter((field) => field.required && !target.lines.some(({ to }) => to === field.key))
      .map(({ key, label }) => ({
        part: 'mapping',
        line: key,
        message: `${label} is required there, and nothing is mapped to it.`,
        fix: 'Map a field to it, or give it a fixed value.',
      })),
});
