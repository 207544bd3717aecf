export { identify, type Candidate, type Identified, type Possible } from './identify.ts';
export {
  addressIn,
  asksForAddress,
  identifyingFields,
  keyKindOf,
  keysOf,
  keyText,
  scopeOf,
  type ContactKey,
  type KeyKind,
} from './keys.ts';
export { folded, foldedName, searchTermsOf, searchWordsOf } from './searching.ts';
export { testPerson } from './testPerson.ts';
export { merge, partsOf, split, standsFor, type Pointers } from './merging.ts';
export {
  changesTo,
  keptValues,
  nameIn,
  presentRecord,
  type Claim,
  type KnownContact,
  type ValueChange,
} from './record.ts';
