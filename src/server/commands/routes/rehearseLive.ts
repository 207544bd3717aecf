import { randomBytes } from 'node:crypto';
import { keysOf, testPerson } from '../../../core/identity/index.ts';
import { type Visit, saidPartsOf } from '../../../core/intake/index.ts';
import type { TargetTrial } from '../../../core/delivery/index.ts';
import {
  NOBODY,
  deliveriesIn,
  importedForPreview,
  planSubmission,
  type Plan,
  type RouteDocument,
} from '../../../core/plan/index.ts';
import { good, type Result } from '../../../core/result.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { tryTarget } from '../../connecting/rehearsing.ts';
import type { Context } from '../../context.ts';
import { findConnection, readCatalogues } from '../../store/connections.ts';
import { inTransaction, type Db } from '../../store/database.ts';
import { readKnowledge } from '../../store/knowledge.ts';
import { findRoute } from '../../store/routes.ts';
import { findSource } from '../../store/sources.ts';
import { addTrial, endTarget, findTrial, type TrialRecord } from '../../store/trials.ts';
import { isChanged } from '../../store/versions.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { fingerprintOf } from './fingerprint.ts';

export interface TrialWanted {
  routeId: string;
  sourceId: string;
  /** What the test person says, but for who they are. */
  values: FieldValues;
  visit: Visit;
  /** An address of the operator's own; '' for a made-up one. */
  address: string;
}

/** Begins a live rehearsal of a route's draft: makes the test person, and says where it would be sent. */
export async function beginTrial(
  actor: Actor,
  context: Context,
  { routeId, sourceId, values, visit, address }: TrialWanted,
): Promise<Result<TrialRecord, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, routeId);
    if (!route) return unknown('route');
    const source = await findSource(db, sourceId);
    const document = source && (source.live ?? source.draft);
    if (!document) return refused('invalid', 'no-source', 'The route has no such source.');
    const person = testPerson(document.fields, values, randomBytes(4).toString('hex'), address);
    const plan = await planOf(db, context, {
      document: route.draft,
      sourceId,
      values: person,
      visit,
      name: route.name,
    });
    if (!plan || deliveriesIn(plan).length === 0)
      return refused('invalid', 'nothing-to-try', `Nothing would be sent. ${plan?.notes[0]?.text ?? ''}`.trim());
    const catalogues = await readCatalogues(db);
    const trial: TrialRecord = {
      id: context.newId(),
      routeId,
      version: isChanged(route) ? null : route.liveVersion,
      document: route.draft,
      fingerprint: fingerprintOf(route.draft, catalogues),
      sourceId,
      person: { values: person, visit },
      targets: await targetsOf(db, route.draft, plan),
      state: 'running',
      startedAt: context.now(),
      endedAt: null,
      byName: nameOf(actor),
    };
    await addTrial(db, trial);
    return done(trial, { act: 'rehearsed live', subject: { kind: 'route', id: routeId, name: route.name } });
  });
}

async function targetsOf(db: Db, document: RouteDocument, plan: Plan): Promise<TargetTrial[]> {
  const sent = new Set(deliveriesIn(plan).map(({ targetId }) => targetId));
  return Promise.all(
    document.targets.map(async ({ id, connectionId }): Promise<TargetTrial> => {
      const why = plan.notes.find(({ targetId }) => targetId === id)?.text;
      return {
        targetId: id,
        connectionId,
        connectionName: (await findConnection(db, connectionId))?.name ?? 'a connection that is gone',
        state: sent.has(id) ? 'waiting' : 'left out',
        said: sent.has(id) ? '' : (why ?? 'The test person is not sent there.'),
        nextStep: '',
        rows: [],
        cleaned: sent.has(id) ? 'not yet' : 'nothing there',
        cleanedSaid: '',
      };
    }),
  );
}

/** What a route makes of a test person, of whom nothing is known. */
async function planOf(
  db: Db,
  context: Context,
  about: { document: RouteDocument; sourceId: string; values: FieldValues; visit: Visit; name: string },
): Promise<Plan | null> {
  const source = await findSource(db, about.sourceId);
  const document = source && (source.live ?? source.draft);
  if (!document) return null;
  return planSubmission({
    fields: document.fields,
    statement: document.statement,
    trust: document.trust,
    imported: importedForPreview(document),
    tells: saidPartsOf(document),
    values: about.values,
    visit: about.visit,
    keys: keysOf(document.fields, about.values, about.sourceId),
    known: NOBODY,
    knowledge: await readKnowledge(db),
    routes: [{ id: 'trial', name: about.name, version: 1, document: about.document }],
    catalogues: await readCatalogues(db),
    now: context.now(),
  });
}

/** Sends the test person of a live rehearsal to one of its targets, and writes down what came of it. */
export async function tryTrialTarget(
  context: Context,
  { routeId, trialId, targetId }: { routeId: string; trialId: string; targetId: string },
): Promise<Result<TrialRecord, Refusal>> {
  const { store } = context;
  const trial = await findTrial(store.db, trialId);
  const before = trial?.routeId === routeId ? trial.targets.find((one) => one.targetId === targetId) : undefined;
  if (!trial || !before) return unknown('live rehearsal');
  if (before.state !== 'waiting') return good(trial);
  const connection = await findConnection(store.db, before.connectionId);
  const { document, sourceId, person } = trial;
  const plan = await planOf(store.db, context, { document, sourceId, ...person, name: '' });
  const delivery = plan && deliveriesIn(plan).find((one) => one.targetId === targetId);
  if (!connection || !delivery) return refused('conflict', 'gone', 'The source or the connection is gone meanwhile.');
  const outcome = await tryTarget(context, connection, delivery, `${trialId} ${targetId}`);
  const ended = await inTransaction(store, (db) => endTarget(db, trialId, { ...before, ...outcome }, context.now()));
  return ended ? good(ended) : unknown('live rehearsal');
}
