import { askCheck } from '../../check.ts';

export const noWords = askCheck({
  code: 'no words that people agree to',
  level: 'blocker',
  why: 'Proof of consent is who agreed to which words, and when: without the words there is none (GDPR, article 7).',
  // With a file, the words are said when it is imported.
  find: ({ ask, source, wording }) =>
    source.kind !== 'file' && ask.tickField === '' && wording.trim() === ''
      ? [
          {
            message: 'Nothing says what people agree to, so there would be no proof.',
            fix: 'Choose the tick box that gives consent, or write a consent sentence beside the button in the source.',
          },
        ]
      : [],
});
