import { lineCheck } from '../../check.ts';

export const requiredUnderCondition = lineCheck({
  code: 'required there, and for some people only',
  level: 'warning',
  why: 'Whoever the condition leaves out lacks what the destination requires, and is held.',
  find: ({ field, line }) =>
    field.required && line.when !== null
      ? [
          {
            message: `${field.label} is required there, and is filled for some people only.`,
            fix: 'Fill it for everybody, or put the condition on the target.',
          },
        ]
      : [],
});
