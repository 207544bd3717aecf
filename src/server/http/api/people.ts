import { Hono } from 'hono';
import type { Page } from '../../../contract/pages.ts';
import { PlaceActInput, type PersonRow, type PersonView, type PlaceView } from '../../../contract/people.ts';
import { groupBy } from '../../../core/groupBy.ts';
import { consentState } from '../../../core/consent/index.ts';
import { changeThere } from '../../commands/people/changeThere.ts';
import { readPlaces } from '../../connecting/places.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { listConsentEvents, listDeliveries, listSubmissions, PAGE_SIZE } from '../../store/activity.ts';
import {
  consentOf,
  findPersonRecord,
  listPeople,
  readPersonParts,
  type PersonRecord,
} from '../../store/people/index.ts';
import { listInboundEvents } from '../../store/inboundEvents.ts';
import { purposeNames } from '../../store/purposes.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { cursor, moment, notFound, readInput } from '../problems.ts';
import { noticeView } from './noticeView.ts';

const MOST_NOTICES = 20;

export function peopleRoutes(context: Context): Hono<Session> {
  const { store } = context;
  const app = new Hono<Session>();

  async function must(id: string): Promise<PersonRecord> {
    const record = await findPersonRecord(store.db, id);
    if (!record) throw notFound('person');
    return record;
  }

  async function rows(records: PersonRecord[]): Promise<PersonRow[]> {
    const events = await consentOf(
      store.db,
      records.map(({ id }) => id),
    );
    const nameOf = await purposeNames(store.db);
    return records.map(({ createdAt, updatedAt, ...record }) => {
      const own = [...groupBy(events.get(record.id) ?? [], ({ purpose, channel }) => `${channel} ${purpose}`).values()];
      return {
        ...record,
        createdAt: new Date(createdAt).toISOString(),
        updatedAt: new Date(updatedAt).toISOString(),
        consent: own.flatMap(([first, ...others]) =>
          first
            ? [
                {
                  purpose: nameOf(first.purpose),
                  channel: first.channel,
                  state: consentState([first, ...others]),
                },
              ]
            : [],
        ),
      };
    });
  }

  app.get('/', allow('people:read'), async (c) => {
    const [updatedAt, id] = (c.req.query('before') ?? '').split('.');
    const after = updatedAt && cursor(id) ? { updatedAt: moment(updatedAt), id: id ?? '' } : null;
    const { people, reach } = await listPeople(store.db, c.req.query('text') ?? '', after, PAGE_SIZE + 1);
    const shown = people.slice(0, PAGE_SIZE);
    const isFull = people.length > PAGE_SIZE;
    const end = isFull ? shown.at(-1) : reach;
    return c.json({
      rows: await rows(shown),
      next: end ? `${end.updatedAt}.${end.id}` : null,
      ...(reach && !isFull ? { looked: reach.looked } : {}),
    } satisfies Page<PersonRow>);
  });

  app.get('/:id', allow('people:read'), async (c) => {
    const [row] = await rows([await must(c.req.param('id'))]);
    if (!row) throw notFound('person');
    const { keys, values, history, mergings } = await readPersonParts(store.db, row.id);
    return c.json({
      ...row,
      keys: keys.map(({ kind, value, isOwner, submissionId, saidAt, verifiedAt }) => ({
        kind,
        value,
        recognises: isOwner === 1,
        submissionId,
        saidAt: saidAt === 0 ? null : isoTime(saidAt),
        verifiedAt: isoTime(verifiedAt),
      })),
      values: values.map(({ name, value, rule, trust, setAt, submissionId }) => ({
        name,
        value,
        rule,
        trust,
        at: isoTime(setAt),
        submissionId,
      })),
      history: history.map(({ at, ...claim }) => ({ ...claim, at: isoTime(at) })),
      mergings: mergings.map(({ at, ...event }) => ({ ...event, at: isoTime(at) })),
      notices: (await listInboundEvents(store.db, { contactId: row.id }, MOST_NOTICES)).map(noticeView),
      events: await listConsentEvents(store.db, { contactId: row.id }),
      submissions: (await listSubmissions(store.db, { contactId: row.id }, null)).rows,
      deliveries: (await listDeliveries(store.db, { contactId: row.id }, null)).rows,
    } satisfies PersonView);
  });

  /** How other systems hold the person, asked this moment. */
  app.get('/:id/places', allow('people:read'), async (c) => {
    const record = await must(c.req.param('id'));
    return c.json((await readPlaces(context, record.id)) satisfies PlaceView[]);
  });

  /** Changes how one of them does: takes out of a list, takes a tag off, unsubscribes, subscribes again. */
  app.post('/:id/places', allow('people:act'), async (c) => {
    const asked = { id: c.req.param('id'), input: await readInput(c, PlaceActInput) };
    return c.json(outcome(await changeThere(c.get('actor'), context, asked)) satisfies PlaceView);
  });

  return app;
}
