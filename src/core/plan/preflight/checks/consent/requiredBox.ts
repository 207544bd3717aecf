import { askCheck } from '../../check.ts';

export const requiredBox = askCheck({
  code: 'a consent box is required',
  level: 'hint',
  why: 'Consent is free only where one can go on without it, unless the form is for nothing else (GDPR, article 7, 4).',
  find: ({ ask, source }) => {
    const box = source.fields.find(({ id }) => id === ask.tickField);
    return box?.required
      ? [
          {
            message: `Nobody can send the form without ticking "${box.label}".`,
            fix: 'Make it optional in the source, unless the form is for nothing else.',
          },
        ]
      : [];
  },
});
