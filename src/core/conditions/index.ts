export { decide, fieldsAskedFor, inSentence, type Condition } from './condition.ts';
export { TEST_NAMES, TESTS, type TestName } from './tests.ts';
