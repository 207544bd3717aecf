import { lineCheck } from '../../check.ts';

/** What holds several values, or takes any text. */
const ROOMY = new Set(['several choices', 'text', 'long text', 'list of records']);

export const severalForOne = lineCheck({
  code: 'several answers for one value',
  level: 'warning',
  why: 'Whoever gives more than one answer arrives without any of them, or is held where the field is required.',
  find: ({ field, from, type }) =>
    from && type === 'several choices' && !ROOMY.has(field.type)
      ? [
          {
            message: `${field.label} holds one value, and ${from.label} can have several.`,
            fix: 'Say by a step which of them counts.',
            mend: { kind: 'pick' as const, options: { which: 'first' } },
          },
        ]
      : [],
});
