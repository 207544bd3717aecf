import { lineCheck } from '../../check.ts';

export const notInSource = lineCheck({
  code: 'filled from what the source does not have',
  level: 'blocker',
  why: 'It stays empty for everybody.',
  find: ({ field, line, from }) =>
    line.from.kind === 'field' && !from
      ? [
          {
            message: `${field.label} is filled from "${line.from.field}", which the live source does not have.`,
            fix: 'Publish the source if the field is new, or choose another field.',
          },
        ]
      : [],
});
