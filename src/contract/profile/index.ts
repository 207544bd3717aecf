export type { Authentication, Credential, CredentialName } from './authentication.ts';
export { checkProfile } from './check.ts';
export { looksInField, namesBy, variablesIn } from './requests.ts';
export type { Paging, RequestTemplate } from './requests.ts';
export { ProfileSchema } from './schema.ts';
export type { FieldSource, ItemSource, Profile } from './schema.ts';
export type { EventMeaning, Webhooks } from './webhooks.ts';
