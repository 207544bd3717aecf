import type { Intent } from '../../core/plan/index.ts';
import type { Wanted } from './connector.ts';

/** How the person is looked for: by the address, in the field that it is mapped to. */
export function wantedOf({ email, kind, fields }: Pick<Intent, 'email' | 'kind' | 'fields'>): Wanted {
  const [emailField = ''] =
    Object.entries(fields).find(([, value]) => typeof value === 'string' && value.toLowerCase() === email) ?? [];
  return { email, kind, emailField };
}
