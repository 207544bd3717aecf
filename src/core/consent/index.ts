export { consentState, type ConsentEvent, type ConsentEventKind, type ConsentState } from './state.ts';
