import ICAL from 'ical.js';

/** The columns of cards, and the properties that they are read from (RFC 6350). */
const COLUMNS: [name: string, property: string][] = [
  ['Full name', 'fn'],
  ['Email', 'email'],
  ['Phone', 'tel'],
  ['Organisation', 'org'],
  ['Title', 'title'],
  ['Birthday', 'bday'],
  ['Web site', 'url'],
  ['Note', 'note'],
];

const ADDRESS = ['', '', 'Street', 'City', 'Region', 'Postcode', 'Country'];
const NAME = ['Family name', 'Given name'];

/**
 * The people in a file of cards (vCard 3.0 and 4.0, RFC 2426 and RFC 6350): a row each, of what is said of most people. Of several
 * addresses or numbers the preferred one counts, else the first.
 */
export function readCards(text: string): Record<string, string>[] {
  const parsed = ICAL.parse(text) as unknown;
  const cards = (Array.isArray(parsed) && Array.isArray(parsed[0]) ? parsed : [parsed]) as ConstructorParameters<
    typeof ICAL.Component
  >[0][];
  return cards.map((card) => {
    const component = new ICAL.Component(card);
    const row: Record<string, string> = {};
    const put = (name: string, value: string) => {
      if (name !== '' && value.trim() !== '') row[name] = value.trim();
    };
    for (const [column, property] of COLUMNS) {
      const all = component.getAllProperties(property);
      const [first] = [...all].sort((one, other) => rankOf(one) - rankOf(other));
      if (first) put(column, textOf(first.getFirstValue()).replace(/^(tel|mailto):/i, ''));
    }
    partsOf(component, 'n').forEach((part, at) => put(NAME[at] ?? '', part));
    partsOf(component, 'adr').forEach((part, at) => put(ADDRESS[at] ?? '', part));
    return row;
  });
}

type Property = ReturnType<InstanceType<typeof ICAL.Component>['getAllProperties']>[number];

/** The lower, the more preferred: PREF=1 to 100 of version 4, TYPE=pref of version 3. */
function rankOf(property: Property): number {
  const pref = Number(property.getParameter('pref'));
  if (pref >= 1) return pref;
  return String(property.getParameter('type')).toLowerCase().includes('pref') ? 1 : 101;
}

function textOf(value: unknown): string {
  if (Array.isArray(value)) return value.map(textOf).join(' ').trim();
  if (typeof value === 'string') return value;
  // Days and moments have objects of their own, which write themselves as ISO 8601 does.
  return typeof value === 'object' && value !== null ? (value as { toString: () => string }).toString() : '';
}

function partsOf(component: InstanceType<typeof ICAL.Component>, name: string): string[] {
  const value: unknown = component.getFirstPropertyValue(name);
  return Array.isArray(value) ? value.map(textOf) : [];
}
