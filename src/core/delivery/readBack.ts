import { CHANNEL_WORDS, type Channel } from '../consent/index.ts';
import type { DestinationFieldType, SentValue } from '../mapping/index.ts';
import type { Cause } from './causes.ts';
import { convert, typeOf } from '../values/index.ts';
import { asText, isNothing, overwriting, partsOf, ruleFor } from './overwriting.ts';
import { addressFieldOf, addressOf, fieldsFor, type Catalogue, type Intent } from '../plan/index.ts';

/** Whether a person gets the mail of another system. */
export const STANDINGS = ['subscribed', 'unconfirmed', 'unsubscribed', 'suppressed'] as const;
export type Standing = (typeof STANDINGS)[number];

/** A person as the other system holds them. */
export interface HeldPerson {
  /** Its id there; '' when the service does not say. */
  id: string;
  email: string;
  /** Its own word for how they stand, and what that means; null when the service knows no such thing. */
  state: string;
  standing: Standing | null;
  /** The same by other channels than email, for those that the service tells apart. */
  byChannel?: Partial<Record<Channel, Standing>>;
  /** When it was made there, in milliseconds since 1970; null when the service does not say. */
  madeAt: number | null;
  fields: Record<string, SentValue | null>;
  lists: string[];
  groups: string[];
  tags: string[];
}

/** How it is known what another system holds: we looked there, its answer to the write showed it, or a person looked and said so. */
export const PROVED_BY = ['look', 'answer', 'person'] as const;
export type ProvedBy = (typeof PROVED_BY)[number];

export interface ReadBackRow {
  what: string;
  meant: string;
  found: string;
  same: boolean;
}

/** What stands in the way of somebody who is there, but gets no mail: null when nothing does, or the service does not say. */
export function standingTrouble({ standing }: HeldPerson): Extract<Cause, `${string}there${string}`> | null {
  if (standing === 'unsubscribed') return 'left there before';
  return standing === 'suppressed' ? 'address suppressed there' : null;
}

/** How somebody stands there by a channel; null where the service does not say. */
export const standingBy = ({ standing, byChannel }: HeldPerson, channel: Channel): Standing | null =>
  channel === 'email' ? standing : (byChannel?.[channel] ?? null);

/** By what people know whom it is about. */
const nameOf = ({ subject }: Intent): string =>
  (subject.find(({ key }) => key.kind === 'email') ?? subject[0])?.key.value ?? 'somebody unknown';

/** Compares how somebody who is there stands with what was meant to end: what they get by a channel, or their being in places. */
export function compareEnd(intent: Intent, catalogue: Catalogue, found: HeldPerson): ReadBackRow[] {
  if (intent.ends === 'places') return absences(intent, catalogue, found);
  const standing = standingBy(found, intent.channel);
  const gets = standing === 'subscribed' || standing === 'unconfirmed' || standing === null;
  return [
    row(`Gets something by ${CHANNEL_WORDS[intent.channel]}`, 'no', gets ? 'yes' : `no, ${standing} there`, !gets),
  ];
}

/**
 * Compares what was meant with what the other system now holds, row by row.
 * Under "fill gaps" a field that was filled before, and under "leave alone" every field, may hold something else.
 * @param before the person as found before sending; null when there was none or nobody looked
 */
export function compareReadBack(
  intent: Intent,
  catalogue: Catalogue,
  found: HeldPerson | null,
  before: HeldPerson | null,
): ReadBackRow[] {
  const address = addressOf(intent);
  if (!found) return [{ what: 'Person', meant: nameOf(intent), found: 'not there', same: false }];
  const rows: ReadBackRow[] =
    found.email === '' || address === ''
      ? []
      : [row('Email', address, found.email, address === found.email.toLowerCase())];
  if (standingTrouble(found) !== null)
    rows.push(row('Gets its mail', 'yes', `no, ${found.standing ?? ''} there`, false));
  const destination = fieldsFor(catalogue, { kind: intent.kind, lines: [] });
  const identity = addressFieldOf(intent);
  const untouched = before !== null && intent.duplicates === 'leave alone';
  for (const [key, meant] of Object.entries(intent.fields)) {
    const field = destination.find((candidate) => candidate.key === key);
    // Compared above, as the service's own address of the person.
    if (found.email !== '' && key === identity) continue;
    const held = flagOf(found.fields[key] ?? null, field?.type, catalogue.can.flags);
    const rule = ruleFor(intent, key);
    const expected = before === null ? meant : overwriting(rule, meant, before.fields[key]);
    const kept = untouched || expected === undefined;
    const said = asText(expected ?? meant);
    rows.push(
      row(
        field?.label ?? key,
        kept ? `${said} (kept as it was)` : said,
        asText(held),
        kept || (rule === 'add' ? hasAll(held, meant) : isSameValue(field?.type ?? 'text', expected, held)),
      ),
    );
  }
  if (untouched) return rows;
  for (const id of new Set(intent.places.map(({ list }) => list))) {
    const list = catalogue.lists.find((one) => one.id === id);
    rows.push(place(capital(catalogue.can.calls.list), list?.name ?? id, found.lists.includes(id)));
    for (const { group: inside } of intent.places.filter((one) => one.list === id && one.group !== '')) {
      const group = list?.groups.find((one) => one.id === inside);
      rows.push(place('Group', group?.name ?? inside, found.groups.includes(inside)));
    }
  }
  for (const tag of intent.tags) rows.push(place('Tag', tag, found.tags.includes(tag)));
  rows.push(...absences(intent, catalogue, found));
  for (const tag of intent.tagsOff) rows.push(absence('Tag', tag, found.tags.includes(tag)));
  return rows;
}

/** Whether somebody is out of the places that they are to leave. */
function absences({ leaves }: Intent, catalogue: Catalogue, found: HeldPerson): ReadBackRow[] {
  return leaves.map(({ list: id, group: inside }) => {
    const left = catalogue.lists.find((candidate) => candidate.id === id);
    const group = left?.groups.find((candidate) => candidate.id === inside);
    const isIn = inside === '' ? found.lists.includes(id) : found.groups.includes(inside);
    return absence(
      capital(inside === '' ? catalogue.can.calls.list : catalogue.can.calls.group),
      group?.name ?? left?.name ?? id,
      isIn,
    );
  });
}

const row = (what: string, meant: string, found: string, same: boolean): ReadBackRow => ({ what, meant, found, same });
const place = (what: string, name: string, isIn: boolean) => row(what, name, isIn ? name : 'not in it', isIn);
const absence = (what: string, name: string, isIn: boolean) =>
  row(what, `not ${name}`, isIn ? name : `not ${name}`, !isIn);
/** Whether everything that was to be added to a list is in it. */
const hasAll = (held: SentValue | null, meant: SentValue | null): boolean =>
  meant === null || partsOf(meant).every((part) => held !== null && partsOf(held).includes(part));
const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

/** What a field holds: yes and no in the service's own words are read as such, whatever they would mean elsewhere. */
function flagOf(
  held: SentValue | null,
  type: DestinationFieldType | undefined,
  flags: Catalogue['can']['flags'],
): SentValue | null {
  if (!flags || type !== 'yes/no' || held === null) return held;
  if (String(held) === String(flags.yes)) return true;
  return String(held) === String(flags.no) ? false : held;
}

/** Whether two values mean the same, however either side writes it: 1 and "1", true and "yes", a day and its midnight. */
function isSameValue(type: DestinationFieldType, meant: SentValue | null, held: SentValue | null): boolean {
  if (meant === null) return isNothing(held);
  if (held === null) return false;
  const [one, other] = [String(meant).trim(), String(held).trim()];
  if (one === other) return true;
  if (type === 'date') return /^\d{4}-\d{2}-\d{2}/.test(other) && one.slice(0, 10) === other.slice(0, 10);
  const [left, right] = [convert(meant, type), convert(held, type)];
  return left.ok && right.ok && typeOf(type).same(left.value, right.value);
}
