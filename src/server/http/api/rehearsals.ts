import { Hono } from 'hono';
import type { PartIssue } from '../../../contract/checks.ts';
import {
  LookInput,
  RehearsalInput,
  TrialInput,
  type ProofView,
  type RehearsalView,
  type TrialView,
} from '../../../contract/rehearsal.ts';
import { suspicionOf, VISIT_PARTS, type Visit, saidPartsOf } from '../../../core/intake/index.ts';
import {
  agreedBy,
  ANSWER_REST_MS,
  deliveriesIn,
  importedForPreview,
  knowledgeOf,
  syntheticPerson,
  planSubmission,
  type Catalogue,
  type Plan,
} from '../../../core/plan/index.ts';
import { holds, parseFieldValue, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import { fingerprintOf } from '../../commands/routes/fingerprint.ts';
import { beginTrial, tryTrialTarget } from '../../commands/routes/rehearseLive.ts';
import { lookThere } from '../../connecting/rehearsing.ts';
import type { Context } from '../../context.ts';
import { signForLink } from '../../intake/visitors.ts';
import { findConnection, readCatalogues } from '../../store/connections.ts';
import { readKnowledge } from '../../store/knowledge.ts';
import { readKnownPerson, identityClaims } from '../../store/people/index.ts';
import { findRoute, type RouteRecord } from '../../store/routes.ts';
import { findSource } from '../../store/sources.ts';
import { findTrial, type TrialRecord } from '../../store/trials.ts';
import { allow, type Session } from '../gates.ts';
import { readNames } from '../names.ts';
import { outcome } from '../outcome.ts';
import { notFound, Problem, readInput } from '../problems.ts';

/** Trying a route before people go through it: in the head, with a look at the destinations, and for real. */
export function rehearsalRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;

  /** A route with a sample of one of its sources, read as its fields hold it. */
  async function sampled(id: string, input: RehearsalInput) {
    const record = await findRoute(store.db, id);
    if (!record) throw notFound('route');
    const sourceId = input.sourceId || (record.draft.sourceIds[0] ?? '');
    const source = await findSource(store.db, sourceId);
    const document = source?.live ?? source?.draft;
    if (!document) throw new Problem(409, 'no-source', 'The route has no source.');
    return {
      record,
      sourceId,
      document,
      values: readSample(document.fields, input.values),
      // A sign by which nobody is known: there is no submission yet.
      visit: { ...visitIn(input.visit), visitor: signForLink(context, sourceId) },
      standing: input.standing,
    };
  }

  async function rehearse({
    record,
    sourceId,
    document,
    values,
    visit,
    standing,
  }: Awaited<ReturnType<typeof sampled>>) {
    const said = identityClaims(document.fields, values, sourceId);
    const about = {
      fields: document.fields,
      statement: document.statement,
      trust: document.trust,
      imported: importedForPreview(document),
      tells: saidPartsOf(document),
      values,
      visit,
      routes: [{ id: record.id, name: record.name, version: (record.liveVersion ?? 0) + 1, document: record.draft }],
      keys: said.keys,
      knowledge: await readKnowledge(store.db),
      catalogues: await readCatalogues(store.db),
      now: now(),
    };
    const known =
      standing === 'known' || standing === 'left'
        ? syntheticPerson(standing, about)
        : await readKnownPerson(store.db, said, now() - ANSWER_REST_MS);
    const plan: Plan = planSubmission({ ...about, known });
    const suspicion =
      standing === 'robot'
        ? suspicionOf(document, { trap: 'filled', elapsedSeconds: null, texts: [], isThrowAway: false })
        : null;
    return { plan, suspicion, knows: { ...knowledgeOf(known), ...agreedBy(plan) } };
  }

  /** Computes what the draft would do with a sample, with all that is known of the person. Changes nothing. */
  app.post('/:id/rehearsal', allow('routes:read'), async (c) => {
    const sample = await sampled(c.req.param('id'), await readInput(c, RehearsalInput));
    const rehearsed = await rehearse(sample);
    return c.json({ ...rehearsed, names: await readNames(store.db) } satisfies RehearsalView);
  });

  /** Reads how a destination holds the person of a sample now, beside what the draft would make of it. Changes nothing. */
  app.post('/:id/look', allow('routes:write'), async (c) => {
    const input = await readInput(c, LookInput);
    const { plan } = await rehearse(await sampled(c.req.param('id'), input));
    const delivery = deliveriesIn(plan).find(({ targetId }) => targetId === input.targetId);
    const connection = delivery && (await findConnection(store.db, delivery.connectionId));
    if (!connection) throw new Problem(409, 'not-sent', 'The draft does not send this sample there.');
    return c.json(await lookThere(context, connection, delivery));
  });

  app.post('/:id/trials', allow('routes:write'), async (c) => {
    const input = await readInput(c, TrialInput);
    const { record, sourceId, values, visit } = await sampled(c.req.param('id'), input);
    const wanted = { routeId: record.id, sourceId, values, visit, address: input.address.trim() };
    return c.json(trialView(outcome(await beginTrial(c.get('actor'), context, wanted))), 201);
  });
  app.get('/:id/trials/:trial', allow('routes:read'), async (c) => {
    const trial = await findTrial(store.db, c.req.param('trial'));
    if (trial?.routeId !== c.req.param('id')) throw notFound('live rehearsal');
    return c.json(trialView(trial));
  });
  app.post('/:id/trials/:trial/targets/:target', allow('routes:write'), async (c) => {
    const [routeId, trialId, targetId] = [c.req.param('id'), c.req.param('trial'), c.req.param('target')];
    return c.json(trialView(outcome(await tryTrialTarget(context, { routeId, trialId, targetId }))));
  });

  return app;
}

function trialView({
  id,
  routeId,
  version,
  person,
  targets,
  state,
  startedAt,
  endedAt,
  byName,
}: TrialRecord): TrialView {
  return {
    id,
    routeId,
    version,
    person: person.values,
    targets,
    state,
    startedAt: new Date(startedAt).toISOString(),
    endedAt: endedAt === null ? null : new Date(endedAt).toISOString(),
    by: byName,
  };
}

/** What the newest live rehearsal proves of a route's draft as it is now. */
export function proofOf(
  trial: TrialRecord | undefined,
  { draft, live, liveVersion }: RouteRecord,
  catalogues: Record<string, Catalogue>,
): ProofView | null {
  if (!trial || trial.state === 'running') return null;
  const isLive = live !== null && trial.fingerprint === fingerprintOf(live, catalogues);
  return {
    trialId: trial.id,
    // A draft that is published after it was tried is the version that was tried.
    version: isLive ? liveVersion : trial.version,
    state: trial.state,
    at: new Date(trial.endedAt ?? trial.startedAt).toISOString(),
    by: trial.byName,
    stale: trial.fingerprint !== fingerprintOf(draft, catalogues),
  };
}

/** How a sample came, as far as it is said in texts. */
const visitIn = (visit: Record<string, unknown>): Visit =>
  Object.fromEntries(
    VISIT_PARTS.flatMap((part) => (typeof visit[part] === 'string' ? [[part, visit[part].slice(0, 300)]] : [])),
  );

/**
 * The values of a sample that somebody may have changed: each as its field holds it, or read from what was typed.
 * @throws Problem naming every value that is none
 */
function readSample(fields: SourceField[], sample: Record<string, unknown>): FieldValues {
  const values: FieldValues = {};
  const issues: PartIssue[] = [];
  for (const field of fields) {
    const value = sample[field.id];
    if (value === undefined || value === null || value === '') continue;
    const { type } = field;
    if (holds(type, value) && (typeof value !== 'string' || type === 'choice')) values[field.id] = value;
    else if (typeof value !== 'string')
      issues.push({ pointer: `/values/${field.key}`, detail: `${field.label}: this is no ${type}.` });
    else {
      const parsed = parseFieldValue({ ...field, required: false }, [value]);
      if (parsed.ok) values[field.id] = parsed.value;
      else issues.push({ pointer: `/values/${field.key}`, detail: `${field.label}: ${parsed.issue}` });
    }
  }
  if (issues.length > 0) throw new Problem(422, 'invalid', issues.map(({ detail }) => detail).join(' '), issues);
  return values;
}
