export { decide, fieldsAskedFor, inSentence, testsIn, type Condition, type Decision } from './condition.ts';
export { TEST_NAMES, TESTS, type TestName } from './tests.ts';
