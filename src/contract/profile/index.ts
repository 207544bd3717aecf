export type { Authentication, Credential, CredentialName } from './authentication.ts';
export { checkProfile } from './check.ts';
export { looksInField, namesBy, variablesIn } from './requests.ts';
export type { Paging, RequestTemplate } from './requests.ts';
export { readProfile } from './reader.ts';
export { PROFILE_FORMAT, PROFILE_WHAT, ProfileSchema } from './schema.ts';
export type { FieldSource, ItemSource, Profile } from './schema.ts';
export type { Shop } from './shop.ts';
export { EVENT_MEANINGS, type EventMeaning, type Webhooks } from './webhooks.ts';
