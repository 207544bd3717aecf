import { PAGE_FIELD, PLACEMENT_FIELD, REFERRER_FIELD, VARIANT_FIELD } from '../forms/index.ts';
import { oneLine, plainField, type FieldValues, type SourceField } from '../values/index.ts';

/** What is known of how a submission came, beside what was entered. Each is a column, and can be mapped and filtered by. */
export const VISIT_PARTS = [
  'page',
  'referrer',
  'campaign',
  'source',
  'medium',
  'term',
  'content',
  'device',
  'placement',
  'variant',
] as const;
export type VisitPart = (typeof VISIT_PARTS)[number];

/**
 * Texts; what is not known is absent. visitor: by what a person is known again who opens a link that has it: made for each
 * submission while it is planned, so that it can be handed to systems that write to people.
 */
export type Visit = Partial<Record<VisitPart | 'visitor', string>>;

const LABELS: Record<VisitPart, string> = {
  page: 'Page',
  referrer: 'Page before that',
  campaign: 'Campaign',
  source: 'Campaign source',
  medium: 'Campaign medium',
  term: 'Campaign term',
  content: 'Campaign content',
  device: 'Device',
  placement: 'Placement',
  variant: 'Variant',
};

/** The id under which a part stands among a submission's values: no field of a source has one like it. */
const visitId = (part: VisitPart | 'visitor'): string => `@${part}`;

/** The parts as fields, so that whatever takes a field takes them too. */
export const VISIT_FIELDS: SourceField[] = VISIT_PARTS.map((part) => ({
  ...plainField(visitId(part), part === 'page' || part === 'referrer' ? 'URL' : 'text'),
  label: LABELS[part],
}));

/** The sign of the person whom a submission is of, as a field. */
const VISITOR: SourceField = { ...plainField(visitId('visitor'), 'text'), label: 'Sign for personal links' };

/** Everything that a mapping can draw on: what was entered, and how it came. */
export const factsOf = (values: FieldValues, visit: Visit): FieldValues => ({
  ...values,
  ...Object.fromEntries(Object.entries(visit).map(([part, text]) => [visitId(part as VisitPart), text])),
});

/** The fields of all that: of the source, and of how it came. */
export const factFields = (fields: SourceField[]): SourceField[] => [...fields, ...VISIT_FIELDS, VISITOR];

/** Campaign parameters of links, as they are common practice; no standard describes them. */
const CAMPAIGN: Partial<Record<VisitPart, string>> = {
  campaign: 'utm_campaign',
  source: 'utm_source',
  medium: 'utm_medium',
  term: 'utm_term',
  content: 'utm_content',
};

const LIMITS = { page: 300, other: 120 };

/**
 * How a submission came: from what its form or its payload says, otherwise from the request.
 * @param sent what was sent under a name; undefined when nothing was
 * @param headers in small letters
 */
export function readVisit(
  sent: (name: string) => string | undefined,
  headers: Record<string, string>,
  device: string,
): Visit {
  const told = addressOf(sent(PAGE_FIELD));
  const page = told ?? addressOf(headers.referer) ?? addressOf(headers.origin);
  const visit: Visit = {};
  const set = (part: VisitPart, text: string | null | undefined, limit = LIMITS.other) => {
    const line = oneLine(text ?? '').slice(0, limit);
    if (line !== '') visit[part] = line;
  };
  set('page', page && (told || !isSiteOnly(page) ? withoutQuery(page) : page.origin), LIMITS.page);
  const referrer = addressOf(sent(REFERRER_FIELD));
  set('referrer', referrer && withoutQuery(referrer), LIMITS.page);
  for (const [part, name] of Object.entries(CAMPAIGN))
    set(part as VisitPart, page?.searchParams.get(name) ?? sent(name));
  set('device', device);
  set('placement', sent(PLACEMENT_FIELD));
  set('variant', sent(VARIANT_FIELD));
  return visit;
}

const addressOf = (text: string | undefined): URL | null =>
  text !== undefined && /^https?:/i.test(text) && URL.canParse(text) ? new URL(text) : null;

/** What follows the path may say who the visitor is; the campaign is read from it, and the rest is left out. */
const withoutQuery = ({ origin, pathname }: URL): string => origin + pathname;

/**
 * Whether a request says of the page before it no more than its site, as browsers do to another site where the page does not
 * ask for more (W3C Referrer Policy, strict-origin-when-cross-origin). Then it is not the site's first page for that.
 */
const isSiteOnly = ({ pathname, search }: URL): boolean => pathname === '/' && search === '';

/** Whether a page of a visit is known by its site alone. */
export const isSite = (page: string): boolean => URL.parse(page)?.origin === page;
