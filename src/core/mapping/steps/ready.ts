import type { ToldStep } from './index.ts';

/** Steps as they are needed most. */
export const READY = {
  trim: { kind: 'trim', options: {} },
  lowerCase: { kind: 'case', options: { form: 'lower case' } },
  firstNames: { kind: 'part of a name', options: { part: 'first and middle names' } },
  lastName: { kind: 'part of a name', options: { part: 'last name' } },
  amount: { kind: 'part of an amount', options: { part: 'amount' } },
  inForce: { kind: 'part of a membership', options: { part: 'in force' } },
  oneOrZero: { kind: 'yes/no', options: { yes: '1', no: '0' } },
} satisfies Record<string, ToldStep>;
