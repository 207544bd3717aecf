import { Hono } from 'hono';
import type { PersonRow, PersonView } from '../../../contract/activity.ts';
import { consentState } from '../../../core/consent/index.ts';
import type { Context } from '../../context.ts';
import { listConsentEvents, listDeliveries, listSubmissions, PAGE_SIZE } from '../../store/activity.ts';
import { consentOf, findPersonRecord, listPeople, readPersonParts, type PersonRecord } from '../../store/people.ts';
import { notFound } from '../problems.ts';

export function peopleRoutes({ store }: Context): Hono {
  const app = new Hono();

  async function rows(records: PersonRecord[]): Promise<PersonRow[]> {
    const events = await consentOf(
      store.db,
      records.map(({ id }) => id),
    );
    return records.map(({ createdAt, updatedAt, ...record }) => {
      const own = events.get(record.id) ?? [];
      const purposes = [...new Set(own.map(({ purpose }) => purpose))];
      return {
        ...record,
        createdAt: new Date(createdAt).toISOString(),
        updatedAt: new Date(updatedAt).toISOString(),
        consent: purposes.map((purpose) => ({
          purpose,
          state: consentState(own.filter((event) => event.purpose === purpose)),
        })),
      };
    });
  }

  app.get('/', async (c) => {
    const [updatedAt, id] = (c.req.query('before') ?? '').split('.');
    const after = updatedAt && id ? { updatedAt: Number(updatedAt), id } : null;
    const found = await listPeople(store.db, c.req.query('text') ?? '', after, PAGE_SIZE + 1);
    const shown = found.slice(0, PAGE_SIZE);
    const last = shown.at(-1);
    return c.json({
      rows: await rows(shown),
      next: found.length > PAGE_SIZE && last ? `${last.updatedAt}.${last.id}` : null,
    });
  });

  app.get('/:id', async (c) => {
    const record = await findPersonRecord(store.db, c.req.param('id'));
    const [row] = record ? await rows([record]) : [];
    if (!row) throw notFound('person');
    const { keys, values } = await readPersonParts(store.db, row.id);
    return c.json({
      ...row,
      keys,
      values: values.map(({ name, value, setAt, submissionId }) => ({
        name,
        value,
        setAt: new Date(setAt).toISOString(),
        submissionId,
      })),
      events: await listConsentEvents(store.db, { contactId: row.id }),
      submissions: (await listSubmissions(store.db, { contactId: row.id }, null)).rows,
      deliveries: (await listDeliveries(store.db, { contactId: row.id }, null)).rows,
    } satisfies PersonView);
  });

  return app;
}
