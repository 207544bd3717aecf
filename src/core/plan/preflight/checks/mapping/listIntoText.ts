import { lineCheck } from '../../check.ts';

export const listIntoText = lineCheck({
  code: 'a list goes into a text',
  level: 'hint',
  why: 'Several answers arrive as one text, by which nobody there can be picked.',
  find: ({ field, from, type }) =>
    from && type === 'several choices' && (field.type === 'text' || field.type === 'long text')
      ? [
          {
            message: `${field.label} takes one text: the answers of ${from.label} arrive in it with commas between them.`,
            fix: 'Set tags by answer instead, or say by a step what stands between them.',
            mend: { kind: 'join' as const, options: { by: ', ' } },
          },
        ]
      : [],
});
