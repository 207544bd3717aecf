export {
  decide,
  fieldsAskedFor,
  inSentence,
  isOfKnown,
  testsIn,
  type Condition,
  type Decision,
  type Facts,
} from './condition.ts';
export { holdsForTexts } from './onTexts.ts';
export { asksOf, TEST_NAMES, TESTS, testsFor, type Asked, type TestName } from './tests.ts';
