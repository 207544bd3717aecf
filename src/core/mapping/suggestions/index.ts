export { matchAnswers } from './answers.ts';
export { speaksOfConsent } from './consentWords.ts';
export { assign } from './assign.ts';
export { lineId, suggestLines, type MappedBefore, type Suggestion, type SuggestFacts } from './suggest.ts';
export { namePartOf } from './namePart.ts';
