import type { Webhooks } from '../../contract/profile/index.ts';
import { isSigned } from '../security/signatures.ts';

/** Whether a request comes from the system that knows the secret, and is not an old one sent again. */
export const isGenuine = (
  { signature }: Webhooks,
  request: { header: (name: string) => string; body: string | Uint8Array; secret: string; now: number },
): boolean => isSigned(signature, request);
