import { targetCheck } from '../../check.ts';

export const listWithoutConsent = targetCheck({
  code: 'a list without anybody asked',
  level: 'warning',
  why: 'Whoever is mailed from it can ask for proof that they agreed, and there is none.',
  find: ({ document, target, catalogue }) =>
    document.consent.asks.length === 0 && catalogue.can.lists && target.places.some(({ list }) => list !== '')
      ? [
          {
            part: 'consent',
            message: `People are put into a ${catalogue.can.calls.list}, and nobody is asked whether they agree.`,
            fix: 'Ask for a consent, unless nobody is ever written to from it.',
          },
        ]
      : [],
});
