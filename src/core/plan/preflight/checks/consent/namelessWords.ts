import { isSaid } from '../../../../consent/index.ts';
import type { Check } from '../../check.ts';
import { wordingOf } from '../../../asking.ts';

const FIX = 'Write into it who it is that writes, as people know you.';

/** Any one of them is enough. */
const either = (names: string[]): string => names.map((name) => `"${name}"`).join(' or ');

export const namesUnknown: Check = {
  code: 'nobody said who asks',
  level: 'hint',
  why: 'By which names people know you is not written down here, so no sentence can be checked for them.',
  find: ({ document, names }) =>
    document.consent.asks.length > 0 && names.length === 0
      ? [
          {
            part: 'consent',
            message: 'Nothing says yet by which names people know you.',
            fix: 'Write them down under Consent, at "Who asks".',
          },
        ]
      : [],
};

export const namelessWords: Check = {
  code: 'the words do not say who asks',
  level: 'warning',
  why: 'Consent counts only where people know to whom they give it (GDPR, recital 42; cited from memory).',
  find: ({ document, source, names }) =>
    [...new Set(document.consent.asks.map((ask) => wordingOf(ask, source).trim()))]
      .filter((words) => words !== '' && names.length > 0 && !isSaid(names, words))
      .map((words) => ({ part: 'consent', message: `"${words}" does not say ${either(names)}.`, fix: FIX })),
};

export const namelessMail: Check = {
  code: 'the confirmation mail does not say who asks',
  level: 'warning',
  why: 'People do not click on what comes from they do not know whom, and call it spam.',
  find: ({ document: { consent }, names }) => {
    const { subject, body } = consent.mail;
    return consent.confirmedBy.by === 'iwashi' && names.length > 0 && !isSaid(names, `${subject} ${body}`)
      ? [{ part: 'consent', message: `The mail does not say ${either(names)}.`, fix: FIX }]
      : [];
  },
};
