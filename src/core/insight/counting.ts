/**
 * What is counted of a form, in the order in which it happens. shown: it came into view. opened: the visitor asked for it, by a
 * click or by coming to its own page. started: something was entered. answered: one question of it. completed: it was sent, and
 * is no robot's. confirmed: the person confirmed. delivered: it arrived at a destination. downloaded: what it hands out was
 * fetched. reached: the visitor came to the page that is its later goal. way: somebody who sent it went from one page of it to
 * another one, or to an ending. aside: it was set aside, and why. took: how long it took to fill in. replied: how long it took a
 * colleague to answer.
 */
export const COUNTED = [
  'shown',
  'opened',
  'started',
  'answered',
  'completed',
  'confirmed',
  'delivered',
  'downloaded',
  'reached',
  'way',
  'aside',
  'took',
  'replied',
] as const;
export type CountedWhat = (typeof COUNTED)[number];

/** The steps that people pass one after the other. */
export const FUNNEL = ['shown', 'started', 'completed', 'confirmed', 'delivered'] as const satisfies CountedWhat[];
export type FunnelStep = (typeof FUNNEL)[number];

/** What is told by itself alone, by what a question is counted by: not among those who came, and by nothing else. */
export const TOLD_ALONE = ['way', 'aside', 'took', 'replied'] as const satisfies CountedWhat[];

export const isStep = (what: CountedWhat): what is FunnelStep => FUNNEL.some((step) => step === what);

/** How often something was counted, of rows that are apart by other things. */
export const countOf = (rows: { what: CountedWhat; count: number }[], wanted: CountedWhat): number =>
  rows.reduce((sum, { what, count }) => (what === wanted ? sum + count : sum), 0);

/** What pages tell of themselves, as far as a script on them can see it. */
export const SEEN = ['shown', 'opened', 'started', 'answered', 'reached'] as const satisfies CountedWhat[];

const HOUR_MS = 3_600_000;

/** By what counts are kept apart, one at a time. all: not at all. */
export const DIMENSIONS = [
  'all',
  'page',
  'device',
  'campaign',
  'source',
  'medium',
  'term',
  'content',
  'referrer',
  'cameBy',
  'variant',
  'question',
] as const;
export type Dimension = (typeof DIMENSIONS)[number];

/** What happened once at a form, with how it came about. @param at milliseconds since 1970 */
export type CountedEvent = { sourceId: string; what: CountedWhat; at: number } & {
  [dimension in Exclude<Dimension, 'all'>]: string;
};

/** How often something happened in one stretch of time. @param at its number since 1970 */
export interface Count {
  dimension: Dimension;
  sourceId: string;
  at: number;
  value: string;
  what: CountedWhat;
  count: number;
}

/** The counts that events add up to, by the hour (UTC): of all, and by each thing that an event says. */
export function countsOf(events: CountedEvent[]): Count[] {
  const counts = events.flatMap((event) => {
    const { sourceId, what, at } = event;
    const alone = TOLD_ALONE.some((one) => one === what);
    return DIMENSIONS.flatMap((dimension): Count[] => {
      const value = dimension === 'all' ? '' : event[dimension];
      const isTold = dimension === 'all' ? !alone : value !== '' && (!alone || dimension === 'question');
      return isTold ? [{ dimension, sourceId, at: Math.floor(at / HOUR_MS), value, what, count: 1 }] : [];
    });
  });
  return addedUp(counts);
}

/** Counts of the same thing as one. Those of longer stretches, or of all sources, come of those of shorter ones. */
export function addedUp(counts: Count[], change: (count: Count) => Partial<Count> = () => ({})): Count[] {
  const sums = new Map<string, Count>();
  for (const one of counts) {
    const count = { ...one, ...change(one) };
    const key = [count.dimension, count.sourceId, count.at, count.what, count.value].join(' ');
    const there = sums.get(key);
    if (there) there.count += count.count;
    else sums.set(key, count);
  }
  return [...sums.values()];
}

/** What a site is that visitors come from. */
export const SITE_KINDS = ['search', 'social', 'mail', 'referral'] as const;
export type SiteKind = (typeof SITE_KINDS)[number];

/** How visitors came. */
export type CameBy = SiteKind | 'direct' | 'inside';

/** Words of utm_medium that say it: common practice, no standard. */
const MEDIUMS: Record<string, CameBy> = {
  email: 'mail',
  'e-mail': 'mail',
  mail: 'mail',
  newsletter: 'mail',
  social: 'social',
  'social-media': 'social',
  cpc: 'search',
  ppc: 'search',
  paidsearch: 'search',
  organic: 'search',
  search: 'search',
};

/** Names that hosts of search engines, mailboxes and networks give themselves before their domain. */
const NAMES: Record<string, CameBy> = { search: 'search', mail: 'mail', webmail: 'mail', social: 'social' };

/** How a visitor came, where the campaign says it; null where it does not. @param medium utm_medium; '' for none */
export const saidByMedium = (medium: string): CameBy | null => MEDIUMS[medium.trim().toLowerCase()] ?? null;

/**
 * How a visitor came: by what the campaign says, else by the page before that.
 * @param medium utm_medium; '' for none
 * @param referrer the page before; '' for none
 * @param page the page that the form is on
 */
export function cameBy(medium: string, referrer: string, page: string): CameBy {
  const said = saidByMedium(medium);
  if (said) return said;
  const host = hostOf(referrer);
  if (host === '') return 'direct';
  if (host === hostOf(page)) return 'inside';
  return NAMES[host.split('.')[0] ?? ''] ?? 'referral';
}

/** The host of an address, without "www."; '' for none. */
export const hostOf = (address: string): string =>
  /^https?:\/\/(?:www\.)?([^/:?#]+)/i.exec(address)?.[1]?.toLowerCase() ?? '';
