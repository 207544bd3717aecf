import { addressFieldOf, addressOf, type Intent } from '../../core/plan/index.ts';
import type { Wanted } from './connector.ts';

/** How the person is looked for: by the address, in the field that it is mapped to. */
export const wantedOf = (intent: Pick<Intent, 'subject' | 'kind'>): Wanted => ({
  email: addressOf(intent),
  kind: intent.kind,
  emailField: addressFieldOf(intent),
});
