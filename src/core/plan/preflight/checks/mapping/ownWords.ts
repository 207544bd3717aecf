import { fieldsUsed } from '../../../../mapping/index.ts';
import { lineCheck } from '../../check.ts';

export const ownWords = lineCheck({
  code: "a visitor's words go where your own belong",
  level: 'blocker',
  why: 'Anybody could send mail in your name, or have it sent to whomever they like.',
  find: ({ field, line, from }) =>
    field.ours && (from || fieldsUsed(line).length > 0)
      ? [
          {
            message: `${field.label} is an address or word of your own, and would be filled with what the visitor says.`,
            fix: 'Choose "a fixed value", and enter your own.',
          },
        ]
      : [],
});
