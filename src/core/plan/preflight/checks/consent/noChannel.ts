import { askCheck } from '../../check.ts';

export const noChannel = askCheck({
  code: 'no channel is chosen',
  level: 'blocker',
  why: 'Consent to be written to is none to be called.',
  find: ({ ask, hasBox }) =>
    hasBox && ask.channels.length === 0
      ? [{ message: 'No channel is chosen that people agree to.', fix: 'Choose at least one.' }]
      : [],
});
