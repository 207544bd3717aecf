export { changesTo, identifies, keysOf, type ContactKey, type KnownContact, type ValueChange } from './match.ts';
