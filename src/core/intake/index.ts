export { readJson, readUrlencoded, type Entries, type RawSubmission } from './entries.ts';
export { contentOf, readSubmission, type FieldIssue } from './readSubmission.ts';
export { screen, type Suspicion } from './screening.ts';
export type { SourceDocument } from './source.ts';
