import { addressFieldOf, addressOf, type Intent } from '../../core/plan/index.ts';
import type { Fault } from '../../core/delivery/index.ts';
import type { Wanted } from './connector.ts';

/** How the person is looked for: by the address, or by the key that is mapped to a field there. */
export function wantedOf({ subject, kind }: Pick<Intent, 'subject' | 'kind'>): Wanted {
  const address = subject.find((one) => one.key.kind === 'email');
  const known = address && address.field !== '' ? address : (subject.find(({ field }) => field !== '') ?? subject[0]);
  return {
    email: addressOf({ subject }),
    kind,
    emailField: addressFieldOf({ subject }),
    key: known?.key.value ?? '',
    keyField: known?.field ?? '',
  };
}

/** Why nobody is looked for: without a key, a look would find anybody. */
export const WITHOUT_KEY: Fault = {
  cause: 'incomplete request',
  said: 'Nobody can be looked for there before the address, or another key, is mapped.',
  waitMs: null,
};

/** Whoever was written and is not shown there yet is looked for again after so long. */
export const notSeen = (waitMs: number): Fault => ({ cause: 'not seen yet', said: '', waitMs });
