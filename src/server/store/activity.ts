import { and, asc, desc, eq, gte, inArray, isNull, lt, or, sql, type SQL } from 'drizzle-orm';
import { isoTime } from '../../core/isoTime.ts';
import type { ConfirmationView, ConsentEventView, MailView } from '../../contract/consent.ts';
import type { AttemptView, DeliveryView, HeldGroupView } from '../../contract/deliveries.ts';
import type { Page } from '../../contract/pages.ts';
import type { Progress, SubmissionRow, TrailView } from '../../contract/submissions.ts';
import { CAUSES, HOLDING_BACK, type Arrived, type Cause, type DeliveryState } from '../../core/delivery/index.ts';
import { addressOf } from '../../core/plan/index.ts';
import type { MailState } from '../../core/states/index.ts';
import { normaliseEmail } from '../../core/values/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import type { CountedWhat, Dimension } from '../../core/insight/index.ts';
import { wasCounted } from './counting.ts';
import { beginning, firstIdAt, oneOf, rowsOf, type Db } from './database.ts';
import { mailsOf, type MailRecord } from './mails.ts';
import { isNoInboundEvent } from './inboundEvents.ts';
import { purposeNames } from './purposes.ts';
import type { DeliveryRecord } from './deliveries.ts';
import { peopleLike, reachOf, type Reach } from './people/search.ts';
import { samePerson } from './people/tree.ts';
import { attempts, confirmations, connections, consentEvents, deliveries, purposes, routes } from './schema/index.ts';

export const PAGE_SIZE = 50;
/** So many at most are found that belong to nobody. */
const MOST_OF_NOBODY = 500;

export interface SubmissionFilter {
  sourceId?: string;
  progress?: Progress;
  /** Part of an address or a name. */
  text?: string;
  contactId?: string;
  /** How the submission came: of a page, the beginning of its address. */
  page?: string;
  campaign?: string;
  device?: string;
  placement?: string;
  /** Whether what services tell us is left out: it was handed over by nobody. */
  withoutNotices?: boolean;
  /** Came at this moment or later, and before that one. Milliseconds since 1970. */
  from?: number;
  to?: number;
  /** Was counted as this, and by this thing with this value. */
  reached?: CountedWhat;
  by?: Dimension;
  value?: string;
}

/** How far deliveries, and mails to the visitor or to colleagues, have come that are in these states. */
const PARTS = {
  held: { deliveries: ['held'], mails: ['held'] },
  'on its way': { deliveries: ['queued', 'sending', 'retrying'], mails: ['queued', 'sending'] },
  waiting: { deliveries: ['waiting'], mails: ['waiting'] },
  delivered: { deliveries: ['delivered'], mails: ['sent'] },
  dropped: { deliveries: ['dropped'], mails: ['dropped'] },
} satisfies Record<string, { deliveries: DeliveryState[]; mails: MailState[] }>;

/** Whether a submission `s` has a part that has come so far. */
const hasPart = (progress: keyof typeof PARTS) =>
  sql`(EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id AND d.state IN ${oneOf(PARTS[progress].deliveries)})
    OR EXISTS (SELECT 1 FROM mails m WHERE m.submission_id = s.id AND m.about_kind = 'submission' AND m.kind <> 'ask' AND m.state IN ${oneOf(PARTS[progress].mails)}))`;

/** The same for few among many: begins with the parts, which indexes find by their state. */
const isOfParts = (progress: keyof typeof PARTS) =>
  sql`s.id IN (SELECT id FROM (SELECT submission_id AS id FROM deliveries WHERE state IN ${oneOf(PARTS[progress].deliveries)}
    UNION SELECT submission_id FROM mails WHERE about_kind = 'submission' AND kind <> 'ask' AND state IN ${oneOf(PARTS[progress].mails)}) part)`;

/** How far a submission `s` has come: its own state, and that of its deliveries and mails, the most urgent first. */
const PROGRESS = sql`CASE
  WHEN s.state <> 'planned' THEN s.state
  WHEN ${hasPart('held')} THEN 'held'
  WHEN ${hasPart('on its way')} THEN 'on its way'
  WHEN ${hasPart('waiting')} THEN 'waiting'
  WHEN ${hasPart('delivered')} THEN 'delivered'
  WHEN ${hasPart('dropped')} THEN 'dropped'
  ELSE 'nothing to send' END`;

/** What is known of what arrived of a submission `s` (`deliveryWord`, in SQL); null where nothing did. */
const ARRIVED = sql`CASE
  WHEN EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id AND d.state = 'delivered' AND d.proved_by IS NULL
    AND COALESCE(JSON_LENGTH(d.read_back), 0) = 0) THEN 'accepted'
  WHEN EXISTS (SELECT 1 FROM deliveries d WHERE d.submission_id = s.id AND d.state = 'delivered') THEN 'delivered'
  WHEN ${hasPart('delivered')} THEN 'sent' END`;

/**
 * What everything that has come so far has in common, by which an index finds it; `PROGRESS` then decides. What most
 * submissions come to is found soonest by reading the newest of all.
 */
function mayHaveCome(progress: Progress): SQL {
  switch (progress) {
    case 'held':
    case 'waiting':
    case 'dropped':
    case 'on its way':
      return isOfParts(progress);
    case 'nothing to send':
      return sql`s.sends_nothing = 1`;
    case 'delivered':
      return sql`TRUE`;
    default:
      return sql`s.state = ${progress}`;
  }
}

/** Found by the person's keys, which the index has, and then only those that became theirs. */
const ofContact = (contactId: string) => sql`s.contact_id IN ${samePerson(contactId)} AND s.person_key IN (
  SELECT CONVERT(LEFT(SHA2(CONCAT(k.kind, ' ', k.value), 256), 32) USING ascii) COLLATE ascii_bin FROM contact_keys k WHERE k.contact_id IN ${samePerson(contactId)})`;

/** Submissions, newest first, a page at a time; the next page starts below the last row's id. */
export async function listSubmissions(
  db: Db,
  filter: SubmissionFilter,
  before: string | null,
): Promise<Page<SubmissionRow>> {
  const conditions: SQL[] = [sql`TRUE`];
  if (before) conditions.push(sql`s.id < ${before}`);
  if (filter.sourceId) conditions.push(sql`s.source_id = ${filter.sourceId}`);
  if (filter.contactId) conditions.push(ofContact(filter.contactId));
  let isCommon = false;
  if (filter.text) {
    const like = await peopleLike(db, filter.text);
    const nobodys = await ofNobody(db, filter.text);
    if (like === null && nobodys.length === 0) return { rows: [], next: null };
    isCommon = like !== null && 'among' in like;
    conditions.push(
      like !== null && 'among' in like
        ? like.among(sql`s.contact_id`)
        : sql`s.id IN ${oneOf(['', ...nobodys, ...(await idsOfPeople(db, 'submissions', like?.ids ?? []))])}`,
    );
  }
  if (filter.page) conditions.push(sql`s.page LIKE ${beginning(filter.page)}`);
  if (filter.campaign) conditions.push(sql`s.campaign = ${filter.campaign}`);
  if (filter.device) conditions.push(sql`s.device = ${filter.device}`);
  if (filter.placement) conditions.push(sql`s.placement = ${filter.placement}`);
  if (filter.withoutNotices) conditions.push(isNoInboundEvent(sql`s.source_id`));
  if (filter.from !== undefined) conditions.push(sql`s.id >= ${firstIdAt(filter.from)}`);
  if (filter.to !== undefined) conditions.push(sql`s.id < ${firstIdAt(filter.to)}`);
  if (filter.reached) conditions.push(wasCounted(filter.reached, filter.by ?? 'all', filter.value ?? ''));
  if (filter.progress) conditions.push(mayHaveCome(filter.progress));
  const reach = isCommon && isOnlyText(filter) ? await reachIn(db, 'submissions', before) : null;
  if (reach) conditions.push(sql`s.id >= ${reach.id}`);
  const having = filter.progress ? sql`HAVING progress = ${filter.progress}` : sql``;
  // An outer join, though every submission has a source: an inner one would begin with the few sources, and sort all.
  const rows = await rowsOf<{
    id: string;
    receivedAt: number;
    sourceName: string;
    email: string | null;
    phone: string | null;
    name: string | null;
    progress: Progress;
    arrived: Arrived | null;
    repeats: number;
    typed: string;
  }>(
    db,
    sql`SELECT s.id, s.received_at AS receivedAt, src.name AS sourceName, c.email, c.phone, c.name, s.repeats, s.field_values AS typed,
        ${PROGRESS} AS progress, ${ARRIVED} AS arrived
      FROM submissions s LEFT JOIN sources src ON src.id = s.source_id LEFT JOIN contacts c ON c.id = s.contact_id
      WHERE ${sql.join(conditions, sql` AND `)} ${having} ORDER BY s.id DESC LIMIT ${PAGE_SIZE + 1}`,
  );
  const shown = rows.slice(0, PAGE_SIZE).map(({ typed, email, phone, name, ...row }) => ({
    ...withArrived(row),
    receivedAt: isoTime(row.receivedAt),
    email: email ?? addressIn(typed),
    phone: phone ?? '',
    name: name ?? '',
  }));
  return { rows: shown, ...endOf(rows.length, shown, reach) };
}

/** Whether nothing but a text narrows a list: anything else is found by its index, and few are looked at. */
const isOnlyText = (filter: object): boolean =>
  Object.entries(filter).every(([name, value]) => name === 'text' || value === undefined);

/** How far a page of them is looked through, from below an id. */
const reachIn = (db: Db, list: 'submissions' | 'deliveries', before: string | null): Promise<Reach | null> =>
  reachOf(
    db,
    sql`SELECT id FROM ${sql.identifier(list)} WHERE ${before ? sql`id < ${before}` : sql`TRUE`} ORDER BY id DESC`,
    before === null,
  );

/** Where the page after one begins: below its last line, or where its looking ended. */
function endOf(found: number, shown: { id: string }[], reach: Reach | null): Pick<Page<unknown>, 'next' | 'looked'> {
  if (found > PAGE_SIZE) return { next: shown.at(-1)?.id ?? null };
  return reach ? { next: reach.id, looked: reach.looked } : { next: null };
}

/** An address or number that was typed as a whole, as keys of people are written; null for anything else. */
function wholeKeyIn(text: string): string | null {
  const typed = text.trim();
  if (/^[^\s@]+@[^\s@]+$/.test(typed)) return `email ${normaliseEmail(typed)}`;
  return /^\+[\d\s()/.-]+$/.test(typed) ? `phone +${typed.replace(/\D/g, '')}` : null;
}

/** The ids of what was sent under a whole address or number, and belongs to nobody: it was set aside, or is not planned yet. */
async function ofNobody(db: Db, text: string): Promise<string[]> {
  const key = wholeKeyIn(text);
  if (key === null) return [];
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT id FROM submissions WHERE person_key = CONVERT(LEFT(SHA2(${key}, 256), 32) USING ascii) COLLATE ascii_bin AND contact_id IS NULL LIMIT ${MOST_OF_NOBODY}`,
  );
  return rows.map(({ id }) => id);
}

/** The ids of what some people sent, or was sent for them: so few that they are found before anything else is asked. */
async function idsOfPeople(db: Db, what: 'submissions' | 'deliveries', contactIds: string[]): Promise<string[]> {
  if (contactIds.length === 0) return [];
  const from = {
    submissions: sql`submissions FORCE INDEX (submissions_contact)`,
    deliveries: sql`deliveries FORCE INDEX (deliveries_order)`,
  }[what];
  const rows = await rowsOf<{ id: string }>(db, sql`SELECT id FROM ${from} WHERE contact_id IN ${oneOf(contactIds)}`);
  return rows.map(({ id }) => id);
}

/** The address in a submission that has no contact yet. */
function addressIn(typed: string): string {
  const values = Object.values(JSON.parse(typed) as Record<string, unknown>);
  return values.find((value): value is string => typeof value === 'string' && value.includes('@')) ?? '';
}

export async function readProgress(db: Db, id: string): Promise<Pick<TrailView, 'progress' | 'arrived'>> {
  const [row] = await rowsOf<Pick<TrailView, 'progress' | 'arrived'>>(
    db,
    sql`SELECT ${PROGRESS} AS progress, ${ARRIVED} AS arrived FROM submissions s WHERE s.id = ${id}`,
  );
  return row ? withArrived(row) : { progress: 'received', arrived: null };
}

/** What arrived is said of what is over alone: while something is on its way, that is the news. */
const withArrived = <Row extends Pick<TrailView, 'progress' | 'arrived'>>(row: Row): Row => ({
  ...row,
  arrived: row.progress === 'delivered' ? row.arrived : null,
});

export interface DeliveryFilter {
  state?: DeliveryState;
  /** Ended at this moment or later. Milliseconds since 1970. */
  since?: number;
  cause?: Cause;
  connectionId?: string;
  routeId?: string;
  /** Part of the person's address or name. */
  text?: string;
  submissionId?: string;
  contactId?: string;
}

/** Deliveries, newest first, a page at a time. Attempts come along only when few are asked for. */
export async function listDeliveries(
  db: Db,
  filter: DeliveryFilter,
  before: string | null,
  withAttempts = false,
): Promise<Page<DeliveryView>> {
  const like = filter.text ? await peopleLike(db, filter.text) : undefined;
  if (like === null) return { rows: [], next: null };
  const people =
    like &&
    ('ids' in like
      ? // An empty list is none to the database; nothing has an id without letters.
        sql`${deliveries.id} IN ${oneOf(['', ...(await idsOfPeople(db, 'deliveries', like.ids))])}`
      : like.among(sql`${deliveries.contactId}`));
  const reach = like && 'among' in like && isOnlyText(filter) ? await reachIn(db, 'deliveries', before) : null;
  const rows = await db
    .select({ delivery: deliveries, connectionName: connections.name, routeName: routes.name, behind: EARLIER })
    .from(deliveries)
    .leftJoin(connections, eq(connections.id, deliveries.connectionId))
    .leftJoin(routes, eq(routes.id, deliveries.routeId))
    .where(
      and(
        filter.state ? eq(deliveries.state, filter.state) : undefined,
        filter.since === undefined ? undefined : gte(deliveries.endedAt, filter.since),
        filter.cause ? eq(deliveries.cause, filter.cause) : undefined,
        filter.connectionId ? eq(deliveries.connectionId, filter.connectionId) : undefined,
        filter.routeId ? eq(deliveries.routeId, filter.routeId) : undefined,
        people,
        filter.submissionId ? eq(deliveries.submissionId, filter.submissionId) : undefined,
        filter.contactId ? sql`${deliveries.contactId} IN ${samePerson(filter.contactId)}` : undefined,
        before ? lt(deliveries.id, before) : undefined,
        reach ? gte(deliveries.id, reach.id) : undefined,
      ),
    )
    .orderBy(desc(deliveries.id))
    .limit(PAGE_SIZE + 1);
  const shown = rows.slice(0, PAGE_SIZE);
  const tries = withAttempts
    ? await attemptsOf(
        db,
        shown.map(({ delivery }) => delivery.id),
      )
    : new Map<string, AttemptView[]>();
  const views = shown.map(({ delivery, connectionName, routeName, behind }) => {
    return toDeliveryView(
      delivery,
      { connectionName: connectionName ?? 'removed connection', routeName: routeName ?? 'removed route', behind },
      tries.get(delivery.id) ?? [],
    );
  });
  return { rows: views, ...endOf(rows.length, views, reach) };
}

const EARLIER = sql<
  string | null
>`(SELECT e.submission_id FROM deliveries e WHERE e.contact_id = ${deliveries.contactId}
  AND e.connection_id = ${deliveries.connectionId} AND e.sequence < ${deliveries.sequence}
  AND ${deliveries.state} IN ('queued', 'retrying') AND ${inArray(sql`e.state`, HOLDING_BACK)} ORDER BY e.sequence LIMIT 1)`;

function toDeliveryView(
  record: DeliveryRecord,
  names: Pick<DeliveryView, 'connectionName' | 'routeName' | 'behind'>,
  tries: AttemptView[],
): DeliveryView {
  const facts = record.cause ? CAUSES[record.cause] : null;
  return {
    ...names,
    id: record.id,
    submissionId: record.submissionId,
    email: addressOf(record.intent),
    connectionId: record.connectionId,
    routeId: record.routeId,
    routeVersion: record.routeVersion,
    state: record.state,
    cause: record.cause,
    causeDetail: record.causeDetail ?? '',
    sentence: facts?.sentence ?? '',
    nextStep: facts?.nextStep ?? '',
    plannedAt: isoTime(record.createdAt),
    dueAt: record.state === 'retrying' ? isoTime(record.dueAt) : null,
    deliveredAt: record.state === 'delivered' ? isoTime(record.endedAt) : null,
    endedAt: ['delivered', 'held', 'dropped'].includes(record.state) ? isoTime(record.endedAt) : null,
    leftOut: record.leftOut,
    readBack: record.readBack,
    provedBy: record.provedBy,
    attempts: tries,
  };
}

async function attemptsOf(db: Db, ids: string[]): Promise<Map<string, AttemptView[]>> {
  if (ids.length === 0) return new Map();
  const rows = await db.select().from(attempts).where(inArray(attempts.deliveryId, ids)).orderBy(asc(attempts.number));
  const byDelivery = groupBy(rows, ({ deliveryId }) => deliveryId);
  return new Map([...byDelivery].map(([id, own]) => [id, own.map(toAttemptView)]));
}

function toAttemptView({ deliveryId: _, startedAt, ...row }: typeof attempts.$inferSelect): AttemptView {
  return { ...row, startedAt: isoTime(startedAt) };
}

/** Held deliveries, grouped by why and where, the most first. */
export async function groupHeld(db: Db): Promise<HeldGroupView[]> {
  return rowsOf<HeldGroupView>(
    db,
    sql`SELECT d.cause, d.connection_id AS connectionId, COALESCE(c.name, 'removed connection') AS connectionName, COUNT(*) AS count,
        CASE COUNT(DISTINCT d.cause_detail) WHEN 1 THEN MAX(d.cause_detail)
          WHEN 2 THEN CONCAT(MAX(d.cause_detail), ' Or: ', MIN(d.cause_detail))
          ELSE '' END AS detail
      FROM deliveries d LEFT JOIN connections c ON c.id = d.connection_id
      WHERE d.state = 'held' GROUP BY d.cause, d.connection_id, c.name ORDER BY count DESC`,
  );
}

/** Consent events of a submission or a contact, oldest first. */
export async function listConsentEvents(
  db: Db,
  by: { submissionId: string } | { contactId: string },
): Promise<ConsentEventView[]> {
  const rows = await db
    .select({ event: consentEvents, name: purposes.name })
    .from(consentEvents)
    .leftJoin(purposes, eq(purposes.id, consentEvents.purpose))
    .where(
      'submissionId' in by
        ? eq(consentEvents.submissionId, by.submissionId)
        : and(sql`${consentEvents.contactId} IN ${samePerson(by.contactId)}`, isNull(consentEvents.undoneAt)),
    )
    .orderBy(asc(consentEvents.at), asc(consentEvents.id));
  return rows.map(({ name, event: { kind, purpose, channel, wording, at, evidence, submissionId } }) => ({
    kind,
    purpose: name ?? purpose,
    channel,
    wording,
    at: isoTime(at),
    evidence,
    submissionId,
  }));
}

/**
 * The confirmations that a submission asked for, or that its deliveries wait for, with their mails, and the other mails
 * that it caused.
 */
export async function listMail(
  db: Db,
  submissionId: string,
  restMs: number,
): Promise<{ confirmations: ConfirmationView[]; mails: MailView[] }> {
  const joinedIds = db
    .select({ id: deliveries.confirmationId })
    .from(deliveries)
    .where(eq(deliveries.submissionId, submissionId));
  const records = await db
    .select()
    .from(confirmations)
    .where(or(eq(confirmations.submissionId, submissionId), inArray(confirmations.id, joinedIds)))
    .orderBy(asc(confirmations.createdAt));
  const sent = await mailsOf(
    db,
    submissionId,
    records.map(({ id }) => id),
  );
  const nameOf = await purposeNames(db);
  const views = records.map(({ id, purposes: settled, state, sentTo, expiresAt, confirmedAt, lastSentAt, mail }) => ({
    id,
    purposes: settled.map(nameOf),
    state,
    sentTo,
    expiresAt: isoTime(expiresAt),
    confirmedAt: isoTime(confirmedAt),
    mayResendAt: state === 'pending' ? isoTime(lastSentAt + restMs) : null,
    mails: sent
      .filter(({ confirmationId, kind }) => kind === 'ask' && confirmationId === id)
      // The link is worth a signature: it is shown to nobody but the person.
      .map((row) => mailView(row, mail.subject, mail.body.replaceAll('{link}', `[${mail.button}: link]`))),
  }));
  const mails = sent
    .filter((row) => row.kind !== 'ask' && row.submissionId === submissionId)
    .map((row) => mailView(row, row.subject, row.text));
  return { confirmations: views, mails };
}

const mailView = (
  { id, kind, to, state, sentAt, createdAt, error }: MailRecord,
  subject: string,
  text: string,
): MailView => ({ id, kind, to, subject, text, state, at: isoTime(sentAt ?? createdAt), error: error ?? '' });
