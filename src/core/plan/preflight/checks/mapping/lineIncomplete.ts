import { lineCheck } from '../../check.ts';

export const lineIncomplete = lineCheck({
  code: 'a line is filled from nothing',
  level: 'warning',
  why: 'Somebody chose how it is filled, and not with what: it stays empty.',
  find: ({ field, line: { from } }) => {
    const isEmpty =
      (from.kind === 'text' && from.text.trim() === '') ||
      (from.kind === 'fixed' && from.value.trim() === '') ||
      (from.kind === 'first' && from.fields.length === 0);
    return isEmpty
      ? [
          {
            message: `${field.label} is filled from nothing yet.`,
            fix: 'Open the line and complete it, or take it away.',
          },
        ]
      : [];
  },
});
