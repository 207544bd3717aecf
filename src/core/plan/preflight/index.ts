export type { Finding } from './finding.ts';
export { preflight } from './preflight.ts';
