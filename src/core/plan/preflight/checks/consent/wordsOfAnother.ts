import { fitsWording } from '../../../../consent/index.ts';
import { askCheck } from '../../check.ts';

export const wordsOfAnother = askCheck({
  code: 'the words speak of something else',
  level: 'blocker',
  why: 'Whoever agreed to one thing would be written down as having agreed to another.',
  find: ({ ask, hasBox, purpose, wording }) =>
    hasBox && purpose && !(ask.tickField === '' && wording.trim() === '') && !fitsWording(purpose, wording)
      ? [
          {
            message: `"${wording}" is no sentence by which people agree to "${purpose.name}".`,
            fix: 'Choose the purpose that it speaks of, or say under Consent that it is one.',
          },
        ]
      : [],
});
