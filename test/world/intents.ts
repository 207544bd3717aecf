import type { Intent } from '../../src/core/plan/index.ts';

/** What is meant for a person: nothing but the address, as far as a test does not say more. */
export const intentOf = (email: string, more: Partial<Intent> = {}): Intent => ({
  format: 2,
  subject: [{ key: { kind: 'email', value: email }, field: 'mail' }],
  kind: '',
  fields: {},
  list: '',
  group: '',
  tags: [],
  leaves: [],
  tagsOff: [],
  duplicates: 'update',
  purpose: 'Sky letter',
  wording: 'Yes',
  ...more,
});
