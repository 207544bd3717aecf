import type { BulkInput, BulkView } from '../../../contract/deliveries.ts';
import { fitValue, type SentValue } from '../../../core/mapping/index.ts';
import { addressOf, fieldsFor, type Catalogue, type Intent } from '../../../core/plan/index.ts';
import { bad, good, type Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import type { Db } from '../../store/database.ts';
import {
  dropDelivery,
  heldDeliveries,
  replayDelivery,
  settleDelivery,
  type DeliveryRecord,
} from '../../store/deliveries.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';
import { askForOne } from './askAnew.ts';
import { GONE_ON, replanOne } from '../../planning/replanning.ts';

/** So many at once, so that a request is answered soon; whoever asked goes on with the rest. */
const MOST_AT_ONCE = 100;

/**
 * Does one thing to all deliveries that are held for one cause at one connection, a part at a time.
 * @returns how many went on, which did not and why, and where to go on
 */
export async function actOnHeld(actor: Actor, context: Context, input: BulkInput): Promise<Result<BulkView, Refusal>> {
  const { cause, connectionId, after, act, reason } = input;
  return inCommand(context, actor, async (db) => {
    const held = await heldDeliveries(db, { cause, connectionId, after }, MOST_AT_ONCE + 1);
    const part = held.slice(0, MOST_AT_ONCE);
    const connection = await findConnection(db, connectionId);
    const catalogue = connection?.catalogue ?? null;
    const view: BulkView = { done: 0, stayed: [], next: held.length > MOST_AT_ONCE ? (part.at(-1)?.id ?? null) : null };
    for (const delivery of part) {
      const why = await actOnOne(db, context, { delivery, input, catalogue });
      if (why === null) view.done += 1;
      else view.stayed.push({ id: delivery.id, email: addressOf(delivery.intent), why });
    }
    const subject = { kind: 'connection', id: connectionId, name: connection?.name ?? '' } as const;
    const said = reason === '' ? act : `${act} (${reason})`;
    const detail = `For "${cause}": ${said}. ${view.done} went on, ${view.stayed.length} stayed.`;
    return done(view, part.length === 0 ? null : { act: 'acted on all held', subject, detail });
  });
}

/** @returns why it stays as it is; null when it went on */
async function actOnOne(
  db: Db,
  context: Context,
  { delivery, input, catalogue }: { delivery: DeliveryRecord; input: BulkInput; catalogue: Catalogue | null },
): Promise<string | null> {
  const { now } = context;
  const { id, intent } = delivery;
  switch (input.act) {
    case 'retry':
      return (await replayDelivery(db, id, now())) ? null : GONE_ON;
    case 'retry under the present route':
      return replanOne(db, context, delivery);
    case 'set a value': {
      const fitted = valueFor(catalogue, intent, input);
      if (!fitted.ok) return fitted.issue;
      // Only where it is missing: what the person said themselves stays.
      const fields = { [input.field]: fitted.value, ...intent.fields };
      return (await replayDelivery(db, id, now(), { intent: { ...intent, fields } })) ? null : GONE_ON;
    }
    case 'ask to confirm':
      return askForOne(db, context, delivery);
    case 'it arrived':
      return (await settleDelivery(db, id, now())) ? null : GONE_ON;
    case 'drop':
      return (await dropDelivery(db, id, input.reason, now())) ? null : GONE_ON;
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
