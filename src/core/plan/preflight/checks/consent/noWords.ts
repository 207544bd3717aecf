import { askCheck } from '../../check.ts';

export const noWords = askCheck({
  code: 'no words that people agree to',
  level: 'blocker',
  why: 'Proof of consent is who agreed to which words, and when: without the words there is none (GDPR, article 7).',
  find: ({ ask, wording }) =>
    ask.tickField === '' && wording.trim() === ''
      ? [
          {
            message: 'Nothing says what people agree to, so there would be no proof.',
            fix: 'Choose the tick box that gives consent, or write a consent sentence beside the button in the source.',
          },
        ]
      : [],
});
