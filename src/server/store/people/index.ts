export { changeContacts, takeConfirmedChanges, type ContactChange } from './changes.ts';
export { addConsentEvents, consentKey, consentOf, readConsent, type Consent, type NewConsentEvent } from './consent.ts';
export {
  readContacts,
  readKnownPeople,
  readKnownPerson,
  identityClaims,
  sentBy,
  type IdentityClaims,
} from './known.ts';
export { addSearchWords, fillSearchWords } from './search.ts';
export { findPersonRecord, listPeople, readPersonParts, type PersonRecord } from './list.ts';
export { mergeContacts, splitContact } from './merging.ts';
export { undoSubmission } from './undoing.ts';
export { consentGivenBy, peopleBehind, readKnownContact, sourcesAnsweredBy } from './visitors.ts';
