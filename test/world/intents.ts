import type { Wanted } from '../../src/server/connectors/connector.ts';
import type { Intent } from '../../src/core/plan/index.ts';

/** What is meant for a person: nothing but the address, as far as a test does not say more. */
export const intentOf = (email: string, more: Partial<Intent> = {}): Intent => ({
  format: 6,
  subject: [{ key: { kind: 'email', value: email }, field: 'mail' }],
  kind: '',
  fields: {},
  rules: {},
  places: [],
  tags: [],
  leaves: [],
  tagsOff: [],
  ends: null,
  duplicates: 'update',
  purpose: 'Sky letter',
  channel: 'email',
  wording: 'Yes',
  ...more,
});

/** Somebody who is looked for by an address. @param emailField the field that holds it, where it is mapped */
export const wantedBy = (email: string, emailField = '', kind = ''): Wanted => ({
  email,
  kind,
  emailField,
  key: email,
  keyField: emailField,
});
