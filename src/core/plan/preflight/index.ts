export type { CheckedConnection } from './check.ts';
export type { Finding } from './finding.ts';
export { findingKey, preflight, type PreflightInput, type PreflightSource } from './preflight.ts';
