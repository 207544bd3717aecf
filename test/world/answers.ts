import type { Answer } from '../../src/core/delivery/index.ts';

/** What a service answers. */
export const answered = (status: number, body: unknown = {}, headers: Record<string, string> = {}): Answer => ({
  kind: 'answered',
  status,
  headers,
  body,
  readable: true,
});
