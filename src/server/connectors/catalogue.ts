import { CHANNELS, type Channel } from '../../core/consent/index.ts';
import type { FieldSource, ItemSource, Profile } from '../../contract/profile/index.ts';
import { DESTINATION_FIELD_TYPES, type DestinationField } from '../../core/mapping/index.ts';
import type { Abilities, Catalogue, CatalogueItem } from '../../core/plan/index.ts';
import { typeOf, UNKNOWN_MANNER } from '../../core/values/index.ts';
import type { Line } from './call.ts';
import type { Reply } from './connector.ts';
import { one, textAt, textsAt } from '../../core/json/index.ts';
import { fetchAll } from './paging.ts';
import { names, operationsOf, replacedBy, SETS, setsReplaced } from './template.ts';

/** What a kind of service can do, read off its profile. */
export function abilitiesOf(profile: Profile): Abilities {
  const { catalogue, find, write, place, make, remove, calls, errors, values } = profile;
  const sends = sentBy(profile);
  const places = (source: ItemSource | undefined, name: string) => source !== undefined && sends(name);
  return {
    lists: places(catalogue.lists, 'list'),
    groups: places(catalogue.groups, 'group'),
    tags: places(catalogue.tags, 'tag') || place?.tag !== undefined,
    leavesLists: place?.outOfList !== undefined,
    leavesGroups: place?.outOfGroup !== undefined,
    untags: place?.untag !== undefined,
    kinds: places(catalogue.kinds, 'kind'),
    freeFields: catalogue.freeFields ?? false,
    readBack: find !== undefined,
    refusesLeft: errors.some(({ cause }) => cause === 'left there before'),
    takesProof: takesProof(profile),
    duplicates: policiesOf(write.how, find !== undefined),
    makes: {
      list: make?.list !== undefined,
      group: make?.group !== undefined,
      tag: make?.tag !== undefined,
      field: make?.field !== undefined,
    },
    makesTypes: DESTINATION_FIELD_TYPES.filter((type) => make?.field?.types?.[type] !== undefined),
    unsubscribes: unsubscribesBy(profile),
    removes: remove !== undefined,
    takesAddress: carriesAddress(profile),
    ...replacing(profile),
    oneList: takesOneList(profile),
    ...(values?.flags ? { flags: values.flags } : {}),
    calls: { list: calls?.list ?? 'list', group: calls?.group ?? 'group', kind: calls?.kind ?? 'kind of record' },
  };
}

/** Which sets are replaced by what is sent, though nobody can read what is in them. */
function replacing({ write, place, record, find }: Profile): Pick<Abilities, 'takesAway'> {
  const writes = write.how === 'upsert' ? [write.upsert] : write.how === 'make or change' ? [write.change] : [];
  const places = [place?.intoList, place?.intoGroup, place?.tag].filter((request) => request !== undefined);
  const replaced = new Set([...writes.flatMap(setsReplaced), ...places.flatMap(replacedBy)]);
  const takesAway = SETS.filter((name) => replaced.has(name) && (find === undefined || record[name] === undefined));
  return takesAway.length > 0 ? { takesAway } : {};
}

/** Whether a person is put into the first of several lists only, since no request names more. */
const takesOneList = ({ speaks, write, place }: Profile): boolean =>
  speaks === 'http' &&
  place?.intoList === undefined &&
  operationsOf(write).some(({ request }) => names(request, 'list')) &&
  !operationsOf(write).some(({ request }) => names(request, 'lists'));

/** Whether the service says that lists leave those in peace who confirmed elsewhere, and every way into a list sends the proof. */
function takesProof({ catalogue: { lists }, write, place }: Profile): boolean {
  if (!lists || 'fixed' in lists || lists.asksProven !== false) return false;
  const intoLists = [...operationsOf(write).map(({ request }) => request), place?.intoList].filter(
    (request) => request !== undefined && (names(request, 'list') || names(request, 'lists')),
  );
  return intoLists.length > 0 && intoLists.every((request) => request !== undefined && names(request, 'proof'));
}

/** By which channels somebody who is there can be unsubscribed. */
function unsubscribesBy({ subscription, record, find }: Profile): Channel[] {
  if (!subscription?.unsubscribe || !find) return [];
  return ['email', ...CHANNELS.filter((channel) => channel !== 'email' && record.states?.[channel] !== undefined)];
}

/** Tells what the requests of a profile send: what none of them does is not offered, though the service can be asked for it. */
function sentBy({ speaks, write, place, find }: Profile): (name: string) => boolean {
  if (speaks !== 'http') return () => true;
  const requests = JSON.stringify([write, place, find]);
  return (name) => new RegExp(`"\\$${name}s?[."]|\\{[^}]*\\b${name}\\b[^}]*\\}`).test(requests);
}

function policiesOf(how: Profile['write']['how'], finds: boolean): Abilities['duplicates'] {
  switch (how) {
    case 'add':
      return finds ? ['add', 'leave alone'] : ['add'];
    case 'upsert':
      return finds ? ['update', 'fill gaps', 'leave alone'] : ['update'];
    case 'make or change':
      return ['update', 'fill gaps', 'leave alone', 'add'];
    default:
      return how satisfies never;
  }
}

/**
 * Tells whether a request that writes carries a field: all do where it carries the fields as a whole. What none of them carries
 * would be planned, and said to have arrived, and never sent.
 */
export function carriesField({
  speaks,
  write,
  batch,
}: Pick<Profile, 'speaks' | 'write' | 'batch'>): (key: string) => boolean {
  if (speaks !== 'http') return () => true;
  const requests = JSON.stringify([write, batch?.write]);
  if (/"\$(fields|otherFields)"/.test(requests)) return () => true;
  const named = new Set([...requests.matchAll(/"\$(?:fields|otherFields)\.((?:[^"\\]|\\.)+)"/g)].map(([, key]) => key));
  return (key) => named.has(key);
}

/** Whether a write says whose it is by the address itself, whatever is mapped. */
const carriesAddress = ({ speaks, write }: Profile): boolean =>
  speaks === 'http' && operationsOf(write).some(({ request }) => names(request, 'email'));

/** Asks a service for everything it offers: places, labels, fields, kinds of record. */
export async function fetchCatalogue(line: Line): Promise<Reply<Catalogue>> {
  const { profile } = line.access;
  const { lists, groups, tags, kinds, fields } = profile.catalogue;
  const catalogue: Catalogue = { lists: [], tags: [], fields: [], kinds: [], can: abilitiesOf(profile) };
  const foundLists = await fetchItems(line, lists, {});
  if (!foundLists.ok) return foundLists;
  for (const list of foundLists.value) {
    const inside = await fetchItems(line, groups, { list: list.id });
    if (!inside.ok) return inside;
    catalogue.lists.push({ ...list, groups: inside.value });
  }
  const foundTags = await fetchItems(line, tags, {});
  if (!foundTags.ok) return foundTags;
  catalogue.tags = foundTags.value;
  const foundKinds = await fetchItems(line, kinds, {});
  if (!foundKinds.ok) return foundKinds;
  for (const kind of foundKinds.value) {
    const own = await fetchFields(line, fields, { kind: kind.id });
    if (!own.ok) return own;
    catalogue.kinds.push({ ...kind, fields: own.value });
  }
  if (!kinds) {
    const all = await fetchFields(line, fields, {});
    if (!all.ok) return all;
    catalogue.fields = all.value;
  }
  return { ok: true, value: catalogue };
}

async function fetchItems(
  line: Line,
  source: ItemSource | undefined,
  values: Record<string, unknown>,
): Promise<Reply<(CatalogueItem & { repeats?: boolean; confirms?: boolean })[]>> {
  if (!source) return { ok: true, value: [] };
  if ('fixed' in source) return { ok: true, value: source.fixed };
  const reply = await fetchAll(line, source, values, (item) => textAt(item, source.id));
  if (!reply.ok) return reply;
  return {
    ok: true,
    value: reply.value.map((item) => ({
      id: textAt(item, source.id),
      name: textAt(item, source.name),
      ...(source.repeats === undefined ? {} : { repeats: isSaid(one(item, source.repeats)) }),
      ...(source.confirms === undefined ? {} : { confirms: isSaid(one(item, source.confirms)) }),
    })),
  };
}

async function fetchFields(
  line: Line,
  source: FieldSource | undefined,
  values: Record<string, unknown>,
): Promise<Reply<DestinationField[]>> {
  if (!source) return { ok: true, value: [] };
  const { profile } = line.access;
  const carries = carriesField(profile);
  // The address has a place of its own in the request, whatever its field is called.
  const isSent = ({ key, type }: DestinationField) => carries(key) || (type === 'email' && carriesAddress(profile));
  if ('fixed' in source) return { ok: true, value: source.fixed.filter(isSent) };
  const reply = await fetchAll(line, source, values, (item) => textAt(item, source.key));
  if (!reply.ok) return reply;
  return { ok: true, value: reply.value.map((item) => fieldOf(item, source)).filter(isSent) };
}

function fieldOf(item: unknown, source: Exclude<FieldSource, { fixed: unknown }>): DestinationField {
  const longest = one(item, source.maxLength);
  return {
    key: textAt(item, source.key),
    label: textAt(item, source.label),
    type: source.types?.[textAt(item, source.type)] ?? 'text',
    required: isSaid(one(item, source.required)),
    choices: textsAt(item, source.choices),
    maxLength: typeof longest === 'number' ? longest : null,
  };
}

/** Whether something is said to be so, as services say it: true, 1, "Y", "yes", "required". */
function isSaid(value: unknown): boolean {
  if (typeof value === 'boolean') return value;
  if (typeof value !== 'string' && typeof value !== 'number') return false;
  const read = typeOf('yes/no').parse(String(value), UNKNOWN_MANNER);
  return read.ok ? read.value === true : /^(required|mandatory)$/i.test(String(value).trim());
}
