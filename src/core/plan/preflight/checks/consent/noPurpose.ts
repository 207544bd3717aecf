import { askCheck } from '../../check.ts';

export const noPurpose = askCheck({
  code: 'no purpose is chosen',
  level: 'blocker',
  why: 'Consent is to something: without a purpose nobody can say later what a person agreed to.',
  find: ({ ask }) =>
    ask.purpose === ''
      ? [{ message: 'It does not say what people consent to.', fix: 'Choose the purpose, or make one.' }]
      : [],
});
