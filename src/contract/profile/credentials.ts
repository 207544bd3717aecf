import type { Authentication, CredentialName } from './authentication.ts';

/** What has to be pasted for each way of saying on whose behalf a request comes. */
export const NEEDED_CREDENTIALS: Record<Authentication['kind'], CredentialName[]> = {
  none: [],
  'secret address': [],
  'key in header': ['key'],
  'key in query': ['key'],
  bearer: ['key'],
  'user and password': ['user', 'password'],
  signature: ['key', 'secret'],
  'OAuth, granted by a person': ['clientId', 'clientSecret'],
  'OAuth, by client': ['clientId', 'clientSecret'],
};
