import 'reflect-metadata';
import { parseArgs } from 'node:util';
import { benchAccept } from './accept.ts';
import { printChat } from './chat.ts';
import { benchCount } from './count.ts';
import { benchBatch, benchDeliver, benchPath } from './deliver.ts';
import { benchHook } from './hook.ts';
import { benchImport, benchTake } from './import.ts';
import { benchPublic } from './public.ts';
import { benchStall } from './stall.ts';
import { benchMapping } from './mapping.ts';
import { printPages } from './pages.ts';
import { printEmbed } from './embed.ts';
import { printSuggest } from './suggest.ts';
import { printTable } from './table.ts';
import type { Comparison } from './compare.ts';

const BENCHES: Record<string, () => Promise<Comparison>> = {
  accept: benchAccept,
  public: benchPublic,
  hook: benchHook,
  count: benchCount,
  import: benchImport,
  take: benchTake,
  mapping: benchMapping,
  path: benchPath,
  deliver: benchDeliver,
  batch: benchBatch,
  stall: benchStall,
};

/** What each ratio is, and what is aimed at. */
const MEANINGS: Record<string, string> = {
  accept: 'submissions accepted, against a bare handler with one INSERT (aim 0.6)',
  public: 'forms sent by the script on a page, with all checks, against the same handler (aim 0.5)',
  hook: 'signed messages taken by an inbound webhook, against the same handler (aim 0.6)',
  import: 'rows of a file read and planned, against LOAD DATA into a bare table (aim 0.3)',
  take: 'rows of a file taken, each a submission, against the same',
  count: 'showings of forms noted, two events each, against the same handler',
  mapping: 'mappings of 25 lines applied, against a hand-written function (aim 0.5)',
  path: 'accepted to delivered and read back, against a bare loop with one request (aim 0.35)',
  deliver: 'planned to delivered and read back, against the same (aim 0.5)',
  batch: 'the same, with several people in one request',
  stall: 'the speed of a good destination while another stalls, against its speed alone (aim 0.9)',
};

const { values, positionals } = parseArgs({
  options: { json: { type: 'boolean', default: false }, size: { type: 'string', default: '1000000' } },
  allowPositionals: true,
});
// These print figures of their own, which are no ratios.
const OWN: Record<string, () => void | Promise<void>> = {
  chat: printChat,
  suggest: printSuggest,
  table: printTable,
  embed: printEmbed,
  pages: () => printPages(Number(values.size)),
};
for (const name of positionals) await OWN[name]?.();
const names = positionals.length > 0 ? positionals.filter((name) => !(name in OWN)) : Object.keys(BENCHES);
const results: Record<string, Comparison> = {};
for (const name of names) {
  const bench = BENCHES[name];
  if (!bench) {
    console.error(`iwashi bench: there is no "${name}". There are: ${Object.keys(BENCHES).join(', ')}`);
    process.exit(2);
  }
  results[name] = await bench();
  if (!values.json) {
    const { ratio, iwashi, reference, unit } = results[name];
    console.log(
      `${name.padEnd(8)} ${ratio.toFixed(2)}  ${Math.round(iwashi)} against ${Math.round(reference)} ${unit}  ${MEANINGS[name] ?? ''}`,
    );
  }
}
if (values.json) console.log(JSON.stringify(results, null, 2));
process.exit(0);
