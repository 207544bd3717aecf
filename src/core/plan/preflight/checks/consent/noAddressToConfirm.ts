import { asksForAddress } from '../../../../identity/index.ts';
import { byIwashi, type Check } from '../../check.ts';

export const noAddressToConfirm: Check = {
  code: 'no address at which to confirm',
  level: 'blocker',
  why: 'Everybody would wait for a mail that can go to nobody.',
  find: (checked) =>
    byIwashi(checked) && !asksForAddress(checked.source.fields)
      ? [
          {
            part: 'consent',
            message: 'The source asks for no address at which people could confirm.',
            fix: 'Let nobody confirm, or add an email field to the source.',
          },
        ]
      : [],
};
