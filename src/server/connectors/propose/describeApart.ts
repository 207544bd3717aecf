import path from 'node:path';
import { Worker } from 'node:worker_threads';
import type { DescriptionView, OperationChoice } from '../../../contract/profiles.ts';
import { bad, type Result } from '../../../core/result.ts';

const LIMIT_MS = 10_000;
const MEMORY_MB = 256;

/**
 * Reads a description in a thread of its own, which is ended when it takes too long or too much memory: a document that
 * keeps a parser busy for minutes must not keep visitors waiting.
 * @param root where the built programs are
 */
export function describeApart(
  root: string,
  text: string,
  choice: OperationChoice | null,
  limitMs = LIMIT_MS,
): Promise<Result<DescriptionView>> {
  return new Promise((resolve) => {
    const thread = new Worker(path.join(root, 'dist/server/describe-thread.js'), {
      workerData: { text, choice },
      resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
      env: {},
    });
    const end = (result: Result<DescriptionView>) => {
      clearTimeout(timer);
      void thread.terminate();
      resolve(result);
    };
    const timer = setTimeout(() => end(bad(TOO_MUCH)), limitMs);
    thread.once('message', (result: Result<DescriptionView>) => end(result));
    thread.once('error', () => end(bad(TOO_MUCH)));
  });
}

const TOO_MUCH = 'Reading this document takes too long or too much memory. Give one with fewer operations.';
