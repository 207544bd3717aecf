export { changesTo, identifyingFields, keysOf, type ContactKey, type KnownContact, type ValueChange } from './match.ts';
