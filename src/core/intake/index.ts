export { MOST_ENTRIES, readJson, readWritten, readXml, TOO_MANY_ENTRIES, writingOf, type Writing } from './bodies.ts';
export { readPayload, suspicionOf } from './kinds/index.ts';
export { keyFor, meaningOf } from './naming.ts';
export {
  entriesOf,
  jsonOf,
  readRaw,
  readFormBody,
  readUrlencoded,
  withValueAt,
  type Entries,
  type Payload,
  type RawSubmission,
  type SentFile,
} from './payload.ts';
export { embeddedFiles, pathsIn } from './places.ts';
export { contentOf, inOneText, type FieldIssue } from './reading.ts';
export { edgeSamples, exampleValues, SAMPLE_STANDINGS, type SampleStanding } from './samples.ts';
export { NO_GUARDS, SUSPICIONS, type Guards, type Signs, type Suspicion } from './screening.ts';
export { FIRST_START, STARTS } from './starts.ts';
export {
  isPosted,
  type ChatDocument,
  noticesDocument,
  plainFace,
  readMadeSource,
  asVariant,
  readSource,
  SOURCE_FORMAT,
  SOURCE_KINDS,
  type FileDocument,
  type FormDocument,
  type MadeDocument,
  type MadeKind,
  type NoticePaths,
  type NoticesDocument,
  type OpenTimes,
  type PostedDocument,
  type PostsDocument,
  type RegistrationDocument,
  type ShopDocument,
  type SourceDocument,
} from './source.ts';
export { withFieldsFor, findingsOf, inferFields, shapeOf, type Gone, type PathFinding } from './shape.ts';
export {
  asFieldPath,
  asUsable,
  challengeIn,
  eventKindsIn,
  goneOf,
  idsIn,
  learnFrom,
  samplesIn,
  type GoneOfKind,
  type KindLearnt,
} from './webhook.ts';
export {
  ANSWER_STATUSES,
  CHALLENGES,
  ENCODINGS,
  EVENT_ACTS,
  HASHES,
  PLAIN_WEBHOOK,
  PROOFS,
  type Challenge,
  type EventAct,
  type EventKinds,
  type Proof,
  type WebhookAnswer,
} from './webhookParts.ts';
export { shopAsPosts, shopDocument, type CheckoutBox } from './shop.ts';
export { NEW_CHAT } from './newChat.ts';
export { NEW_REGISTRATION } from './registration.ts';
export { isTried, saidPartsOf, saidThere, saysAnew, type SaidThere } from './said.ts';
export { SHOP_EVENTS, type SaidAnswer, type SaidParts, type ShopEvent } from './shopParts.ts';
export { endOf } from './membership.ts';
export type { MembershipPaths } from './membershipPaths.ts';
export { areTimes, isOpenAt, isZone } from './openTimes.ts';
export { documentChanges } from './documentChanges.ts';
export { fieldChanges, mayBreak, type FieldChange } from './sourceChanges.ts';
export {
  factFields,
  factsOf,
  isSite,
  readVisit,
  VISIT_FIELDS,
  VISIT_PARTS,
  type Visit,
  type VisitPart,
} from './visit.ts';
export { addressesLedTo, LEADS_NOWHERE } from './leading.ts';
