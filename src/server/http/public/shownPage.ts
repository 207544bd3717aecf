import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { isbot } from 'isbot';
import { check } from '../../../contract/checks.ts';
import { SeenInput } from '../../../contract/counting.ts';
import { PAGE_FIELD, REFERRER_FIELD, VARIANT_FIELD } from '../../../core/forms/index.ts';
import { readVisit } from '../../../core/intake/index.ts';
import { parseJson } from '../../../core/json/index.ts';
import type { Context } from '../../context.ts';
import { deviceOf } from '../../intake/device.ts';
import { batchCalls } from '../../store/batchCalls.ts';
import { noteEvents, noteProgress, visitColumns, type FormEvent } from '../../store/counting.ts';
import { problemResponse, tooLarge } from '../problems.ts';
import { visitorAddress } from '../visitor.ts';
import type { LiveSources } from './liveSources.ts';
import { allowOrigin, isAllowedOrigin, originOf } from './origins.ts';
import { Pace, tooOften } from './pace.ts';

const BODY_LIMIT_BYTES = 16 * 1024;
/** So many showings are noted by one statement at most. */
const MOST_TOGETHER = 200;

/**
 * Where scripts on pages tell how forms were met: to be counted, without who it was.
 * @param perMinute how often one address may tell something in a minute
 */
export function shownPageRoutes(context: Context, live: LiveSources, perMinute: number): Hono {
  const app = new Hono();
  const { config, now } = context;
  const pace = new Pace(perMinute);
  const together = batchCalls(
    async (told: FormEvent[][]) => {
      await noteEvents(context.store.db, told.flat());
      return told.map(() => null);
    },
    { atOnce: 1, most: MOST_TOGETHER },
  );
  app.use(bodyLimit({ maxSize: BODY_LIMIT_BYTES, onError: () => problemResponse(tooLarge('This is too much.')) }));
  app.post('/', async (c) => {
    allowOrigin(c);
    const wait = await pace.wait(visitorAddress(c, config.trustedProxies));
    if (wait !== null) return problemResponse(tooOften(wait));
    const userAgent = c.req.header('user-agent') ?? '';
    // Who asks not to be followed is not; robots are no visitors.
    if (isbot(userAgent) || c.req.header('sec-gpc') === '1') return c.body(null, 204);
    // As plain text, since that asks nobody's leave beforehand (WHATWG Fetch, 4.8: CORS-safelisted).
    const read = check(SeenInput, parseJson(await c.req.text()) ?? {});
    if (!read.ok) return c.body(null, 400);
    const { form, showing, page, referrer, events, variant } = read.value;
    const source = await live.find(form);
    if (!source || !isAllowedOrigin(source.live, originOf(c), config.publicUrl)) return c.body(null, 404);
    const told: Record<string, string> = { [PAGE_FIELD]: page, [REFERRER_FIELD]: referrer, [VARIANT_FIELD]: variant };
    const sent = (name: string) => told[name];
    const how = visitColumns(readVisit(sent, {}, deviceOf(userAgent)));
    const questions = new Map(source.live.fields.map(({ key, id }) => [key, id]));
    if (events.some(({ what }) => what === 'reached')) await noteProgress(context.store.db, 'reached', [showing]);
    const noted = events.flatMap(({ what, question }): FormEvent[] => {
      const id = what === 'answered' ? questions.get(question) : '';
      return id === undefined || what === 'reached'
        ? []
        : [{ subject: showing, what, question: id, sourceId: source.id, at: now(), ...how }];
    });
    if (noted.length > 0) await together(noted);
    return c.body(null, 204);
  });
  return app;
}
