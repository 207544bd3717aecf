import { parentPort, workerData } from 'node:worker_threads';
import type { OperationChoice } from '../../../contract/profiles.ts';
import { describe } from './describe.ts';

// A thread of its own, started by describeApart: whatever a description does to it, the server goes on.
const { text, choice } = workerData as { text: string; choice: OperationChoice | null };
void describe(text, choice).then((result) => parentPort?.postMessage(result));
