import type { BulkInput, BulkView } from '../../contract/activity.ts';
import { fitValue, type SentValue } from '../../core/mapping/index.ts';
import { addressOf, fieldsFor, type Catalogue, type Intent } from '../../core/plan/index.ts';
import { bad, good, type Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import { findConnection } from '../store/connections.ts';
import {
  dropDelivery,
  heldDeliveries,
  replayDelivery,
  settleDelivery,
  type DeliveryRecord,
} from '../store/deliveries.ts';
import { askAnew } from './confirming.ts';
import { replan } from './replanning.ts';

/** So many at once, so that a request is answered soon; whoever asked goes on with the rest. */
const MOST_AT_ONCE = 100;

/**
 * Does one thing to all deliveries that are held for one cause at one connection, a part at a time.
 * @returns how many went on, which did not and why, and where to go on
 */
export async function actOnHeld(context: Context, input: BulkInput): Promise<BulkView> {
  const { cause, connectionId, after } = input;
  const held = await heldDeliveries(context.store.db, { cause, connectionId, after }, MOST_AT_ONCE + 1);
  const part = held.slice(0, MOST_AT_ONCE);
  const connection = input.act === 'set a value' ? await findConnection(context.store.db, connectionId) : null;
  const view: BulkView = { done: 0, stayed: [], next: held.length > MOST_AT_ONCE ? (part.at(-1)?.id ?? null) : null };
  for (const delivery of part) {
    const why = await actOnOne(context, delivery, input, connection?.catalogue ?? null);
    if (why === null) view.done += 1;
    else view.stayed.push({ id: delivery.id, email: addressOf(delivery.intent), why });
  }
  return view;
}

const GONE_ON = 'It has gone on meanwhile.';

/** @returns why it stays as it is; null when it went on */
async function actOnOne(
  context: Context,
  delivery: DeliveryRecord,
  input: BulkInput,
  catalogue: Catalogue | null,
): Promise<string | null> {
  const { store, now } = context;
  const { id, intent } = delivery;
  switch (input.act) {
    case 'retry':
      return (await replayDelivery(store.db, id, now())) ? null : GONE_ON;
    case 'retry under the present route': {
      const outcome = await replan(context, id);
      return outcome.ok ? null : outcome.issue;
    }
    case 'set a value': {
      const fitted = valueFor(catalogue, intent, input);
      if (!fitted.ok) return fitted.issue;
      // Only where it is missing: what the person said themselves stays.
      const fields = { [input.field]: fitted.value, ...intent.fields };
      return (await replayDelivery(store.db, id, now(), { intent: { ...intent, fields } })) ? null : GONE_ON;
    }
    case 'ask to confirm': {
      const outcome = await askAnew(context, id);
      return outcome === 'asked' ? null : outcome === 'asked already' ? 'A confirmation is open already.' : GONE_ON;
    }
    case 'it arrived':
      return (await settleDelivery(store.db, id, now())) ? null : GONE_ON;
    case 'drop':
      return (await dropDelivery(store.db, id, input.reason, now())) ? null : GONE_ON;
    default:
      return input.act satisfies never;
  }
}

/** The value as the field takes it in that kind of record. */
function valueFor(catalogue: Catalogue | null, { kind }: Intent, { field: key, value }: BulkInput): Result<SentValue> {
  if (!catalogue) return bad('The connection has no fields: verify it.');
  const field = fieldsFor(catalogue, { kind, lines: [] }).find((one) => one.key === key);
  if (!field)
    return catalogue.can.freeFields ? good(value) : bad('Such a record has no such field there, as last fetched.');
  const fitted = fitValue(field, value);
  return fitted.ok ? fitted : bad(`${field.label} ${fitted.issue}`);
}
