export { isSaid } from './names.ts';
export {
  CHANNELS,
  CHANNEL_WORDS,
  fitsWording,
  type Channel,
  type ConsentNeed,
  type Purpose,
  type PurposeDraft,
} from './purpose.ts';
export {
  agreesBy,
  consentState,
  hasTakenBack,
  isEchoOf,
  isTakenBackSince,
  stateFor,
  type ConsentEvent,
  type ConsentEventKind,
  type ConsentState,
} from './state.ts';
