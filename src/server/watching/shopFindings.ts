import type { ShopFinding } from '../../contract/shops.ts';
import { CHANNEL_WORDS } from '../../core/consent/index.ts';
import type { ShopDocument } from '../../core/intake/index.ts';
import { openShop, saidOf } from '../connecting/shops.ts';
import { verifyConnection } from '../connectors/verifying/verify.ts';
import { isTold, readBoxes } from '../connectors/shop.ts';
import type { Context } from '../context.ts';
import { inboundEventAddressOf } from '../store/inboundEvents.ts';
import type { SourceRecord } from '../store/sources.ts';

/** Asks a shop for what would explain that nothing comes, or that nobody agrees to anything. */
export async function lookAtShop(
  context: Context,
  source: SourceRecord,
  document: ShopDocument,
): Promise<ShopFinding[]> {
  const opened = await openShop(context, document.connectionId);
  if (!opened.ok)
    return [{ ok: false, found: `The shop cannot be asked: ${saidOf(opened.fault)}`, fix: 'open the connection' }];
  const { connection, profile, shop, line } = opened.value;
  const findings: ShopFinding[] = [];
  const note = (ok: boolean, found: string, fix: ShopFinding['fix'] = null) => void findings.push({ ok, found, fix });
  const { result } = await verifyConnection(line, false);
  if (!result.ok) return [{ ok: false, found: `${result.problem} ${result.nextStep}`, fix: 'open the connection' }];
  note(true, `${profile.name} knows us as ${result.account}, and permits what is needed.`);
  const address = await inboundEventAddressOf(context.store.db, connection.id);
  const told = address?.remoteId ? await isTold(line, shop, address.remoteId) : null;
  if (!address || (told?.ok && told.value === false))
    note(
      false,
      address
        ? 'The shop does not tell us what happens: our address was taken away there.'
        : 'The shop does not tell us what happens: our address is not registered there.',
      'listen',
    );
  else if (told && !told.ok)
    note(false, `Whether the shop tells us what happens cannot be seen: ${saidOf(told.fault)}`);
  else note(true, 'Our address is registered there: the shop tells what happens.');
  const boxes = await readBoxes(line, shop);
  if (!boxes.ok) note(false, `What its check-out offers cannot be seen: ${saidOf(boxes.fault)}`);
  else if (boxes.value) findings.push(...boxFindings(source, document, boxes.value));
  return findings;
}

/** What is to be said of the boxes at a check-out. */
function boxFindings(
  source: SourceRecord,
  { answers }: ShopDocument,
  boxes: { channel: string; words: string }[],
): ShopFinding[] {
  const { fields } = source.draft;
  return answers.map(({ channel, field }): ShopFinding => {
    const shown = boxes.find((box) => box.channel === channel)?.words;
    const ours = fields.find(({ id }) => id === field)?.label ?? '';
    if (shown === undefined)
      return {
        ok: false,
        found: `Its check-out shows no box for ${CHANNEL_WORDS[channel]}: nobody can agree to it there.`,
        fix: null,
      };
    return shown === ours
      ? { ok: true, found: `Its check-out asks for ${CHANNEL_WORDS[channel]}: “${shown}”`, fix: null }
      : {
          ok: false,
          found: `Its check-out asks for ${CHANNEL_WORDS[channel]} in other words than this source has: “${shown}”`,
          fix: 'read the check-out',
        };
  });
}
