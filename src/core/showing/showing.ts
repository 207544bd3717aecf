/**
 * How a form comes before visitors. inline: where the page has a place for it. pop-up: over the page, which waits. bar: along
 * an edge of the window. corner: a panel in a corner. page: over the whole window.
 */
export const PRESENTATIONS = ['inline', 'pop-up', 'bar', 'corner', 'page'] as const;
export type Presentation = (typeof PRESENTATIONS)[number];

export const POSITIONS = ['top', 'bottom'] as const;
export type Position = (typeof POSITIONS)[number];

export const ENTRANCES = ['none', 'fade', 'slide'] as const;
export type Entrance = (typeof ENTRANCES)[number];

export const DEVICES = ['phone', 'tablet', 'desktop'] as const;
export type DeviceClass = (typeof DEVICES)[number];

/** What shows a form: any one of them. */
export type Trigger =
  | { kind: 'after'; seconds: number }
  /** Of the page's height, in percent; up: scrolled back by so much. */
  | { kind: 'scroll'; percent: number; direction: 'down' | 'up' }
  /** The pointer goes for the edge of the window: quick notices it far from it, late close to it. */
  | { kind: 'leaving'; sensitivity: 'quick' | 'late' }
  | { kind: 'idle'; seconds: number }
  /** Something is clicked that a CSS selector names. */
  | { kind: 'click'; selector: string }
  /** So many pages were looked at, this one too. */
  | { kind: 'pages'; count: number };
export type TriggerKind = Trigger['kind'];
export const TRIGGER_KINDS = ['after', 'scroll', 'leaving', 'idle', 'click', 'pages'] as const satisfies TriggerKind[];

/** When, where and to whom a form shows itself. */
export interface Showing {
  triggers: Trigger[];
  /** Patterns of addresses, such as /blog/* or https://shop.example/*; none: every page. */
  pages: string[];
  notPages: string[];
  /** The visitor came from a site whose host ends so; none: from anywhere. */
  referrers: string[];
  /** The visit is of one of these campaigns (utm_campaign); none: of any or none. */
  campaigns: string[];
  visitors: 'all' | 'new' | 'returning';
  devices: DeviceClass[];
  /** Minutes before it shows itself again; 0: on every page. */
  againMinutes: number;
  /** Days without it after it was closed. */
  closedDays: number;
  /** Whether it stays away once it was sent. */
  notAfterSent: boolean;
  /** Of several that could be shown at once, the highest is. */
  priority: number;
  position: Position;
  entrance: Entrance;
  /** Where a page has no place for an inline form: before or behind what a CSS selector names there; '' for where it was put by hand. */
  placeAt: string;
  placeSide: 'before' | 'after';
}

/** Usual, and common practice: after five seconds, again after an hour, not on small screens. */
export const PLAIN_SHOWING: Showing = {
  triggers: [{ kind: 'after', seconds: 5 }],
  pages: [],
  notPages: [],
  referrers: [],
  campaigns: [],
  visitors: 'all',
  devices: ['tablet', 'desktop'],
  againMinutes: 60,
  closedDays: 7,
  notAfterSent: true,
  priority: 0,
  position: 'bottom',
  entrance: 'fade',
  placeAt: '',
  placeSide: 'after',
};

/** What a page knows of a visit at a moment. null: not known, since nothing may be remembered. */
export interface ShowingFacts {
  /** The address of the page. */
  page: string;
  referrer: string;
  now: number;
  /** Of the window, in CSS pixels. */
  width: number;
  /** Pages looked at, this one too, and whether there were visits before this one. */
  pagesSeen: number | null;
  returning: boolean | null;
  shownAt: number | null;
  closedAt: number | null;
  sentAt: number | null;
  secondsOpen: number;
  /** Percent of the page, at the farthest; and back from there. */
  scrolledDown: number;
  /** Whether there is nothing to scroll, so that the page counts as seen to its end. */
  allInSight: boolean;
  scrolledUp: number;
  idleSeconds: number;
  /** How near the pointer came to leaving. */
  leaving: 'quick' | 'late' | null;
  /** What the selectors of the form's triggers name, as far as it was clicked. */
  clicked: string[];
}

export type ShowingRule =
  | 'trigger'
  | 'place'
  | 'pages'
  | 'referrer'
  | 'campaign'
  | 'visitor'
  | 'device'
  | 'again'
  | 'closed'
  | 'sent'
  | 'other';

/** One rule at a moment: whether it lets the form be shown, and the value that it goes by. */
export interface RuleResult {
  rule: ShowingRule;
  holds: boolean;
  now: string;
}

const PHONE_WIDTH = 640;
const TABLET_WIDTH = 1024;

/** What kind of device a window is on, by its width. */
export const deviceOf = (width: number): DeviceClass =>
  width < PHONE_WIDTH ? 'phone' : width < TABLET_WIDTH ? 'tablet' : 'desktop';

/** Whether an address fits a pattern: * stands for anything; what begins with / is compared with the path alone. */
export function fitsPattern(pattern: string, address: string): boolean {
  const at = parts(address);
  if (!at) return false;
  const exact = pattern
    .trim()
    .replace(/[.+?^${}()|[\]\\]/g, '\\$&')
    .replace(/\*/g, '.*');
  const compared = pattern.startsWith('/')
    ? at.pathname
    : pattern.includes('://')
      ? at.origin + at.pathname
      : at.host + at.pathname;
  return new RegExp(`^${exact}$`, 'i').test(compared);
}

function parts(address: string): URL | null {
  try {
    return new URL(address);
  } catch {
    return null;
  }
}

/** Whether something is to show itself on a page at all. */
export const isMeantFor = ({ pages, notPages }: Pick<Showing, 'pages' | 'notPages'>, page: string): boolean =>
  (pages.length === 0 || pages.some((one) => fitsPattern(one, page))) &&
  !notPages.some((one) => fitsPattern(one, page));

/** Every rule of a form at a moment. It is shown when all of them hold. */
export function evaluateShowing(showing: Showing, facts: ShowingFacts): RuleResult[] {
  const { now, shownAt, closedAt, sentAt } = facts;
  const address = parts(facts.page);
  const campaign = address?.searchParams.get('utm_campaign') ?? '';
  const from = parts(facts.referrer)?.hostname ?? '';
  const device = deviceOf(facts.width);
  const minutes = (at: number | null) => (at === null ? Infinity : (now - at) / 60_000);
  const rule = (name: ShowingRule, holds: boolean, value: string): RuleResult => ({ rule: name, holds, now: value });
  return [
    rule(
      'trigger',
      showing.triggers.some((trigger) => isTriggered(trigger, facts)),
      `open for ${Math.floor(facts.secondsOpen)} s, ${facts.allInSight ? 'nothing to scroll' : `scrolled ${Math.round(facts.scrolledDown)} %`}`,
    ),
    rule('pages', isMeantFor(showing, facts.page), address?.pathname ?? facts.page),
    rule(
      'referrer',
      showing.referrers.length === 0 || showing.referrers.some((one) => endsIn(from, one)),
      from || 'not known',
    ),
    rule('campaign', showing.campaigns.length === 0 || showing.campaigns.includes(campaign), campaign || 'none'),
    rule(
      'visitor',
      showing.visitors === 'all' ||
        (showing.visitors === 'returning' ? facts.returning === true : facts.returning === false),
      facts.returning === null ? 'not known' : facts.returning ? 'returning' : 'new',
    ),
    rule('device', showing.devices.includes(device), `${device}, ${facts.width} px`),
    rule(
      'again',
      minutes(shownAt) >= showing.againMinutes,
      shownAt === null ? 'not shown yet' : `shown ${Math.floor(minutes(shownAt))} min ago`,
    ),
    rule(
      'closed',
      minutes(closedAt) >= showing.closedDays * 24 * 60,
      closedAt === null ? 'not closed' : `closed ${Math.floor(minutes(closedAt))} min ago`,
    ),
    rule('sent', !showing.notAfterSent || sentAt === null, sentAt === null ? 'not sent' : 'sent'),
  ];
}

const endsIn = (host: string, end: string): boolean =>
  host === end.toLowerCase() || host.endsWith(`.${end.toLowerCase()}`);

function isTriggered(trigger: Trigger, facts: ShowingFacts): boolean {
  switch (trigger.kind) {
    case 'after':
      return facts.secondsOpen >= trigger.seconds;
    case 'scroll':
      return (trigger.direction === 'down' ? facts.scrolledDown : facts.scrolledUp) >= trigger.percent;
    case 'leaving':
      return facts.leaving !== null && (trigger.sensitivity === 'quick' || facts.leaving === 'late');
    case 'idle':
      return facts.idleSeconds >= trigger.seconds;
    case 'click':
      return facts.clicked.includes(trigger.selector);
    case 'pages':
      return facts.pagesSeen !== null && facts.pagesSeen >= trigger.count;
    default:
      return trigger satisfies never;
  }
}

/**
 * The line that a site carries once, for all forms and chats.
 * @param server where the script comes from
 * @param storesAtOnce whether the site says by it that every visitor agreed to something being stored
 */
export const scriptLine = (server: string, storesAtOnce = false): string =>
  `<script async src="${server}/place/script.js"${storesAtOnce ? ' data-storage="yes"' : ''}></script>`;

/** By this event a site says that the visitor agreed to something being stored. */
export const AGREED_EVENT = 'iwashi:storage';
/** By this, set to 'yes' on the window, it says so though our script was not there yet to hear the event. */
export const AGREED_FLAG = 'iwashiStorage';
