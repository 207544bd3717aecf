import { Webhook } from 'standardwebhooks';
import { classifyAnswer } from '../../../core/delivery/index.ts';
import { atOnce } from '../access.ts';
import { errorReading } from '../call.ts';
import type { Added, CodeParts } from './parts.ts';

/**
 * Sends JSON signed as Standard Webhooks say. The delivery's id is the message's id, by which the receiver knows a
 * repeated one.
 */
export async function sendSignedWebhook(
  { send, access, now, record }: CodeParts,
  data: Record<string, unknown>,
  idempotencyKey: string,
): Promise<Added> {
  const sentAt = new Date(now());
  const text = JSON.stringify({ type: 'submission.delivered', timestamp: sentAt.toISOString(), data });
  const signature = new Webhook(access.credentials.secret ?? '').sign(idempotencyKey, sentAt, text);
  const { answer, exchange } = await send({
    method: 'POST',
    url: access.baseUrl,
    headers: {
      'webhook-id': idempotencyKey,
      'webhook-timestamp': String(Math.floor(sentAt.getTime() / 1000)),
      'webhook-signature': signature,
    },
    body: { text, type: 'application/json' },
    secret: { headers: ['webhook-signature'], query: [], path: false },
    pool: access.pool,
    atOnce: atOnce(access.profile),
  });
  record.push(exchange);
  // Receivers answer whatever they like, as long as the status says that they took it.
  const read = answer.kind === 'answered' ? { ...answer, readable: true } : answer;
  return { fault: classifyAnswer(read, errorReading(access.profile), now()) };
}

/** Whether a signing secret can be used at all. */
export function isSigningSecret(secret: string): boolean {
  try {
    new Webhook(secret).sign('msg', new Date(0), '{}');
    return Buffer.from(secret.replace(/^whsec_/, ''), 'base64').length >= 16;
  } catch {
    return false;
  }
}
