import { askCheck } from '../../check.ts';

export const purposeGone = askCheck({
  code: 'the purpose is gone',
  level: 'blocker',
  why: 'Nobody could look up what people agreed to.',
  find: ({ ask, purpose }) =>
    ask.purpose !== '' && !purpose
      ? [{ message: 'The purpose that people consent to is gone.', fix: 'Choose another one.' }]
      : [],
});
