import { lineCheck, hasStep } from '../../check.ts';

export const mayBeTooLong = lineCheck({
  code: 'may be too long there',
  level: 'warning',
  why: 'What is longer is left out, or the person is held where the field is required.',
  find: (checked) => {
    const { field, from, type, line } = checked;
    const isLong = type === 'long text' || type === 'several choices' || type === 'list of records';
    if (field.maxLength === null || (!isLong && line.from.kind !== 'text') || hasStep(checked, 'cut')) return [];
    return [
      {
        message: `${field.label} takes ${field.maxLength} characters, and ${from?.label ?? 'the text'} can be longer.`,
        fix: `Add the step "cut to ${field.maxLength}".`,
        mend: { kind: 'cut' as const, options: { length: field.maxLength } },
      },
    ];
  },
});
