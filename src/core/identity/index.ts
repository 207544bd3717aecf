export { changesTo, keysOf, type ContactKey, type KnownContact, type ValueChange } from './match.ts';
