import type { SentValue } from '../mapping/index.ts';
import type { Catalogue, Intent } from '../plan/index.ts';

/** A person as the other system holds them. */
export interface HeldPerson {
  email: string;
  state: string;
  fields: Record<string, SentValue | null>;
  lists: string[];
  groups: string[];
  tags: string[];
}

export interface ReadBackRow {
  what: string;
  meant: string;
  found: string;
  same: boolean;
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
  if (!found) return [{ what: 'Person', meant: intent.email, found: 'not there', same: false }];
  const rows: ReadBackRow[] = [row('Email', intent.email, found.email, intent.email === found.email.toLowerCase())];
  const untouched = before !== null && intent.duplicates === 'leave alone';
  for (const [key, meant] of Object.entries(intent.fields)) {
    const field = catalogue.fields.find((candidate) => candidate.key === key);
    if (field?.type === 'email') continue;
    const held = found.fields[key] ?? null;
    const kept = untouched || (intent.duplicates === 'fill gaps' && isFilled(before?.fields[key]));
    rows.push(
      row(
        field?.label ?? key,
        kept ? `${String(meant)} (kept as it was)` : String(meant),
        held === null ? '' : String(held),
        kept || sameValue(meant, held),
      ),
    );
  }
  if (untouched) return rows;
  const list = catalogue.lists.find(({ id }) => id === intent.list);
  if (intent.list !== '') rows.push(place('List', list?.name ?? intent.list, found.lists.includes(intent.list)));
  if (intent.group !== '') {
    const group = list?.groups.find(({ id }) => id === intent.group);
    rows.push(place('Group', group?.name ?? intent.group, found.groups.includes(intent.group)));
  }
  for (const tag of intent.tags) rows.push(place('Tag', tag, found.tags.includes(tag)));
  return rows;
}

const row = (what: string, meant: string, found: string, same: boolean): ReadBackRow => ({ what, meant, found, same });
const place = (what: string, name: string, isIn: boolean) => row(what, name, isIn ? name : 'not in it', isIn);
const isFilled = (value: SentValue | null | undefined) => value !== undefined && value !== null && value !== '';
const sameValue = (meant: SentValue, held: SentValue | null) => held !== null && String(meant) === String(held);
