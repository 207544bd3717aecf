import { shopDocument } from '../../../core/intake/index.ts';
import { good, type Result } from '../../../core/result.ts';
import { startInboundEvents } from '../../connecting/inboundEvents.ts';
import { profileFor } from '../../connecting/profiles.ts';
import { changesAfter, keepExample, openShop, saidOf } from '../../connecting/shops.ts';
import { readBoxes } from '../../connectors/shop.ts';
import type { Context } from '../../context.ts';
import { newPublicId } from '../../security/tokens.ts';
import { findConnection } from '../../store/connections.ts';
import { addShop, shopOfConnection } from '../../store/shops.ts';
import { addSource, findSource, readSourceName, saveSourceDraft } from '../../store/sources.ts';
import { done, inCommand, refused, unknown, type Actor, type Refusal } from '../command.ts';

/** So many of the newest happenings are kept as examples. */
const EXAMPLES = 20;

/**
 * Makes a source of a connected shop: its fields as its profile says, the words of its check-out as it shows them, and examples of what
 * happened there. It is asked to tell what happens; where it will not, it is asked for that. @returns the source's id
 */
export async function connectShop(
  actor: Actor,
  context: Context,
  { name, connectionId }: { name: string; connectionId: string },
): Promise<Result<string, Refusal>> {
  const { store, newId, now } = context;
  const at = '/connectionId';
  const no = (text: string) => refused('invalid', 'invalid', text, [{ pointer: at, detail: text }]);
  const connection = connectionId === '' ? null : await findConnection(store.db, connectionId);
  if (!connection) return no('Choose the shop: a connection to one.');
  if (!profileFor(connection).shop) return no(`${connection.name} is no connection to a shop.`);
  const before = await shopOfConnection(store.db, connectionId);
  if (before !== null) return no(`${connection.name} is a source already: ${await readSourceName(store.db, before)}.`);
  const opened = await openShop(context, connectionId);
  if (!opened.ok) return no(`The shop cannot be asked: ${saidOf(opened.fault)}`);
  const { shop, line } = opened.value;
  const boxes = await readBoxes(line, shop);
  if (!boxes.ok) return no(`The shop does not say what its check-out offers: ${saidOf(boxes.fault)}`);
  const draft = shopDocument(connectionId, shop, boxes.value ?? []);
  const made = await inCommand(context, actor, async (db) => {
    const id = newId();
    await addSource(db, { id, publicId: newPublicId(), name, draft, now: now() });
    await addShop(db, id, connectionId);
    return done(id, { act: 'made', subject: { kind: 'source', id, name } });
  });
  if (!made.ok) return made;
  // What can be done later is no reason to be without the source: its page says what is missing.
  await startInboundEvents(context, connection);
  await keepExamples(context, made.value, { line, shop });
  return made;
}

async function keepExamples(
  context: Context,
  id: string,
  { line, shop }: Pick<Extract<Awaited<ReturnType<typeof openShop>>, { ok: true }>['value'], 'line' | 'shop'>,
): Promise<void> {
  const source = await findSource(context.store.db, id);
  if (!source || !shop.changes) return;
  const reply = await changesAfter(line, shop.changes, '');
  if (!reply.ok) return;
  for (const { json } of reply.value.happened.slice(-EXAMPLES)) await keepExample(context, source, json);
}

/** Reads anew what a shop's check-out offers, and has the draft say it in those words. */
export async function readCheckout(actor: Actor, context: Context, id: string): Promise<Result<void, Refusal>> {
  const { store, now } = context;
  const source = await findSource(store.db, id);
  if (source?.draft.kind !== 'shop') return unknown('shop');
  const { draft } = source;
  const opened = await openShop(context, draft.connectionId);
  if (!opened.ok) return refused('conflict', 'not-asked', `The shop cannot be asked: ${saidOf(opened.fault)}`);
  const boxes = await readBoxes(opened.value.line, opened.value.shop);
  if (!boxes.ok) return refused('conflict', 'not-asked', `The shop cannot be asked: ${saidOf(boxes.fault)}`);
  const labels = new Map(
    draft.answers.flatMap(({ channel, field }) => {
      const words = boxes.value?.find((box) => box.channel === channel)?.words ?? '';
      return words === '' ? [] : [[field, words] as const];
    }),
  );
  const next = {
    ...draft,
    fields: draft.fields.map((field) => ({ ...field, label: labels.get(field.id) ?? field.label })),
  };
  if (JSON.stringify(next) === JSON.stringify(draft)) return good(undefined);
  return inCommand(context, actor, async (db) => {
    await saveSourceDraft(db, id, next, null, now());
    return done(undefined, { act: 'read the check-out', subject: { kind: 'source', id, name: source.name } });
  });
}
