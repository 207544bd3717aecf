import type { Shop } from '../../contract/profile/index.ts';
import type { CheckoutBox } from '../../core/intake/index.ts';
import { textAt, textOf, one } from '../../core/json/index.ts';
import type { Line } from './call.ts';
import type { Reply } from './connector.ts';
import { fetchAll, fetchPage, type Next } from './paging.ts';

/** The boxes that a shop shows at its check-out, in its words; null where it cannot be asked. */
export async function readBoxes(line: Line, { boxes }: Shop): Promise<Reply<CheckoutBox[] | null>> {
  if (!boxes) return { ok: true, value: null };
  const reply = await fetchAll(line, boxes, {}, (item) => textAt(item, boxes.channel));
  if (!reply.ok) return reply;
  return {
    ok: true,
    value: reply.value.map((item) => ({ channel: textAt(item, boxes.channel), words: textAt(item, boxes.words) })),
  };
}

/** Whether an address of ours is among those that a shop tells; null where it cannot be asked. */
export async function isTold(line: Line, { told }: Shop, remoteId: string): Promise<Reply<boolean | null>> {
  if (!told) return { ok: true, value: null };
  const reply = await fetchAll(line, told, {}, (item) => textAt(item, told.id));
  if (!reply.ok) return reply;
  return { ok: true, value: reply.value.some((item) => textAt(item, told.id) === remoteId) };
}

/** One thing that happened in a shop: what it tells, where it stands in the order of all, and when it was. */
export interface Happened {
  json: unknown;
  position: string;
  /** Milliseconds since 1970; null where it does not say. */
  at: number | null;
}

/** What happened after a position, a page of it. @returns also where it goes on; null at the end */
export async function readChanges(
  line: Line,
  changes: NonNullable<Shop['changes']>,
  after: string,
  at: { next: Next | null; page: number },
): Promise<Reply<{ happened: Happened[]; next: Next | null }>> {
  const reply = await fetchPage(line, changes, after === '' ? {} : { after }, at);
  if (!reply.ok) return reply;
  const { items, next } = reply.value;
  const happened = items.map((json): Happened => {
    const time = Date.parse(textAt(json, changes.at));
    return { json, position: textOf(one(json, changes.position)), at: Number.isNaN(time) ? null : time };
  });
  return { ok: true, value: { happened, next } };
}

/** A page of the customers of a shop, each as a happening has its customer. */
export async function readCustomers(
  line: Line,
  customers: NonNullable<Shop['customers']>,
  at: { next: Next | null; page: number },
): Promise<Reply<{ customers: Record<string, unknown>[]; next: Next | null }>> {
  const reply = await fetchPage(line, customers, {}, at);
  if (!reply.ok) return reply;
  const { items, next } = reply.value;
  return { ok: true, value: { customers: items.map((item) => ({ [customers.under]: item })), next } };
}
