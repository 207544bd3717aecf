import { identifyingFields } from '../../../../identity/index.ts';
import type { Check } from '../../check.ts';

export const identifiesNobody: Check = {
  code: 'nothing says who somebody is',
  level: 'blocker',
  why: 'Without an address, a number or an id nobody can be found again: every submission would be of somebody new.',
  find: ({ source }) =>
    identifyingFields(source.fields).length > 0
      ? []
      : [
          {
            part: 'source',
            message: 'Nothing in the source says who somebody is.',
            fix: 'Add an email field to the source, or keep its phone or id as such, and publish it.',
          },
        ],
};
