import { Hono } from 'hono';
import { SUBJECT_KINDS, type ChangeView } from '../../../contract/changes.ts';
import type { Context } from '../../context.ts';
import { PAGE_SIZE } from '../../store/activity.ts';
import { listActs, type AuditRecord } from '../../store/audit.ts';
import { findDeliveries } from '../../store/deliveries.ts';
import { allow, type Session } from '../gates.ts';
import { cursor, known } from '../problems.ts';

/** What people and programs did here, newest first. */
export function changeRoutes({ store }: Context): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/', allow('changes:read'), async (c) => {
    const { kind, id, before } = c.req.query();
    const filter = {
      ...(kind ? { kind: known(kind, SUBJECT_KINDS, 'kind') } : {}),
      ...(id ? { id } : {}),
    };
    const found = await listActs(store.db, filter, cursor(before), PAGE_SIZE + 1);
    const shown = found.slice(0, PAGE_SIZE);
    const deliveries = await findDeliveries(
      store.db,
      shown.flatMap(({ subjectKind, subjectId }) => (subjectKind === 'delivery' ? [subjectId] : [])),
    );
    const submissionOf = new Map(deliveries.map((delivery) => [delivery.id, delivery.submissionId]));
    const rows = shown.map((record) => viewOf(record, submissionOf));
    return c.json({ rows, next: found.length > PAGE_SIZE ? (rows.at(-1)?.id ?? null) : null });
  });
  return app;
}

const viewOf = (record: AuditRecord, submissionOf: Map<string, string>): ChangeView => ({
  id: record.id,
  at: new Date(record.at).toISOString(),
  actor: { kind: record.actorKind, name: record.actorName },
  act: record.act,
  subject: {
    kind: record.subjectKind,
    id: record.subjectId,
    name: record.subjectName,
    link: linkTo(record, submissionOf),
  },
  detail: record.detail,
});

/** Where the thing is looked at; what was removed has no place any more. */
function linkTo({ act, subjectKind, subjectId }: AuditRecord, submissionOf: Map<string, string>): string {
  if (act === 'removed') return '';
  switch (subjectKind) {
    case 'source':
    case 'route':
    case 'connection':
      return `/${subjectKind}s/${subjectId}`;
    case 'person':
      return `/people/${subjectId}`;
    case 'submission':
    case 'mail':
      return `/activity/${subjectId}`;
    case 'delivery': {
      const submissionId = submissionOf.get(subjectId);
      return submissionId === undefined ? '' : `/activity/${submissionId}`;
    }
    case 'organisation':
      return '/consent/who';
    case 'purpose':
      return `/consent/${subjectId}`;
    case 'token':
    case 'account':
      return '/account';
    case 'profile':
    case 'theme':
    case 'file':
      return '';
    default:
      return subjectKind satisfies never;
  }
}
