export { isObject, objectsIn, presentFormat, upToDate, type DocumentIssue, type Format, type Loose } from './format.ts';
