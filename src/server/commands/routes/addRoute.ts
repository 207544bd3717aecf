import { fitsWording } from '../../../core/consent/index.ts';
import { ROUTE_FORMAT, type ConsentAsk, type RouteDocument } from '../../../core/plan/index.ts';
import { speaksOfConsent } from '../../../core/mapping/index.ts';
import type { Result } from '../../../core/result.ts';
import { isTick, type SourceField } from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { listPurposes, type PurposeRecord } from '../../store/purposes.ts';
import { addRoute as store } from '../../store/routes.ts';
import { findSource } from '../../store/sources.ts';
import { done, inCommand, refused, type Actor, type Refusal } from '../command.ts';

/** What a new route starts as: double opt-in, with a mail that only needs reading over. */
export const NEW_CONSENT: RouteDocument['consent'] = {
  // Whoever makes the route has to say what people agree to, unless the box itself says it: nothing is presumed.
  asks: [{ id: 'a1', purpose: '', channels: ['email'], tickField: '' }],
  confirmedBy: { by: 'iwashi' },
  mail: {
    subject: 'Please confirm your address',
    body: 'Hello,\n\nsomebody, most likely you, signed up with this address. Please confirm that you want to hear from us:\n\n{link}\n\nIf it was not you, do nothing: we will not write again.',
    button: 'Yes, that was me',
  },
  expiresHours: 72,
  changes: 'ask',
};

/**
 * The box whose sentence is one by which people agree to a purpose, and that purpose; otherwise the first whose words speak of agreeing
 * to something, to be chosen from. A box may be anything else as well: that it is a tick says nothing.
 */
function boxIn(fields: SourceField[], purposes: PurposeRecord[]): Pick<ConsentAsk, 'tickField' | 'purpose'> {
  const boxes = fields.filter(isTick);
  const known = boxes.flatMap(({ id, label }) =>
    purposes
      .filter((purpose) => !purpose.archived && fitsWording(purpose, label))
      .map((purpose) => ({ tickField: id, purpose: purpose.id })),
  );
  return (
    known[0] ?? {
      tickField: boxes.find(({ label }) => speaksOfConsent(label))?.id ?? '',
      purpose: '',
    }
  );
}

/** Makes a route that takes a source. @returns its id */
export async function addRoute(
  actor: Actor,
  context: Context,
  { name, sourceId }: { name: string; sourceId: string },
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, sourceId);
    if (!source)
      return refused('invalid', 'invalid', 'Choose a source.', [
        { pointer: '/sourceId', detail: 'There is no such source.' },
      ]);
    const told = boxIn((source.live ?? source.draft).fields, await listPurposes(db));
    const id = newId();
    const asks = NEW_CONSENT.asks.map((ask) => ({ ...ask, ...told }));
    const consent = { ...NEW_CONSENT, asks };
    const draft = { format: ROUTE_FORMAT, sourceIds: [sourceId], targets: [], consent, mails: [], accepted: {} };
    await store(db, { id, name, draft, now: now() });
    return done(id, { act: 'made', subject: { kind: 'route', id, name } });
  });
}
