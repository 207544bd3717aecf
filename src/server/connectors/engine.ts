import type { ExchangeView } from '../../contract/deliveries.ts';
import { looksInField, namesBy, type Profile, type RequestTemplate } from '../../contract/profile/index.ts';
import type { Answer, Fault, HeldPerson, Standing } from '../../core/delivery/index.ts';
import { shownAfterMs, type Access } from './access.ts';
import { call, clockOf, type Line } from './call.ts';
import { fetchCatalogue } from './catalogue.ts';
import type { Connector, PersonChange, Placed, Reply, Wanted } from './connector.ts';
import type { Send } from './http.ts';
import { textAt } from '../../core/json/index.ts';
import { ANOTHER_PERSON, byOurClock, isOfPerson, recordIn } from './reading.ts';
import { asWhole, names, operationsOf, replacedBy, SETS, setsReplaced, type SetName } from './template.ts';
import { togetherFor } from './together.ts';
import { notSeen, WITHOUT_KEY } from './wanted.ts';
import { writtenValues } from './written.ts';

const CANNOT: Reply<never> = {
  ok: false,
  fault: { cause: 'not permitted', said: 'This kind of service cannot do that.', waitMs: null },
};

/** Speaks to a service as its profile says. */
export function createConnector(send: Send, access: Access, now: () => number, record: ExchangeView[] = []): Connector {
  const { profile } = access;
  const { find, write, place, make, remove, subscription, webhooks } = profile;
  const line: Line = { send, access, now, record };
  const replaces = write.how === 'upsert' && setsReplaced(write.upsert).length > 0;

  const connector: Connector = {
    canLookFor: (wanted) => find !== undefined && whomIn(find.request, wanted) !== '',
    findsFirst: write.how === 'make or change',
    replaces,
    adds: write.how === 'add' && write.add.request.idempotencyHeader === undefined,
    makesTwice: write.how === 'make or change' && write.make.request.idempotencyHeader === undefined,
    shownAfterMs: shownAfterMs(profile),
    answersProve: operationsOf(write).every(({ record: shown, proves }) => shown !== undefined && proves === true),
    fetchCatalogue: () => fetchCatalogue(line),

    async find(wanted) {
      if (!find || !connector.canLookFor(wanted)) return { ok: false, fault: WITHOUT_KEY };
      const reply = await call(line, find.request, { ...wanted });
      if (!reply.ok) return isNobody(reply) ? { ok: true, value: null } : reply;
      const found = byOurClock(recordIn(profile, find, reply.value), clockOf(reply.answer), line.now());
      return found && !isOfPerson(found, wanted) ? { ok: false, fault: ANOTHER_PERSON } : { ok: true, value: found };
    },

    async write(change, before, idempotencyKey) {
      const values = writtenValues(profile, change, before);
      const operation = operationFor(before);
      const kept = wholeSets(change, before, setsReplaced(operation));
      const reply = await call(line, operation.request, { ...values, ...kept }, idempotencyKey);
      if (!reply.ok) return reply;
      const written = recordIn(profile, operation, reply.value);
      // An answer need not repeat the address; one that has another is not about this person.
      if (written && written.email !== '' && !isOfPerson(written, change)) return { ok: false, fault: ANOTHER_PERSON };
      return { ok: true, value: written };
    },

    place: placeInto,
    // What would have to be known of each beforehand is written for each.
    together: replaces ? null : togetherFor(line),
    standings: [
      ...(subscription?.subscribe ? (['subscribed'] as const) : []),
      ...(subscription?.unsubscribe ? (['unsubscribed'] as const) : []),
    ],

    async setStanding(wanted, held, to, { proof, channel }) {
      const template = standingRequest(to);
      if (!template) return CANNOT;
      const reply = await call(line, template, { ...wanted, id: held.id, channel, proof: proof ?? undefined });
      return reply.ok ? { ok: true, value: null } : reply;
    },

    async register(address, secret) {
      if (!webhooks) return CANNOT;
      const { request, id, secret: theirs } = webhooks.register;
      const reply = await call(line, request, { address, secret });
      if (!reply.ok) return reply;
      return { ok: true, value: { remoteId: textAt(reply.value, id), secret: textAt(reply.value, theirs) || secret } };
    },

    async unregister(remoteId) {
      if (!webhooks?.remove) return CANNOT;
      const reply = await call(line, webhooks.remove, { id: remoteId });
      return reply.ok ? { ok: true, value: null } : reply;
    },

    async make(making) {
      const how = make?.[making.what];
      if (!how) return CANNOT;
      const types = 'types' in how ? how.types : undefined;
      const reply = await call(line, how.request, {
        ...making,
        // What a service has no word for is made as text: that takes everything.
        type: types?.[making.type] ?? types?.text,
        choiceLines: making.choices.join('\n'),
      });
      return reply.ok ? { ok: true, value: textAt(reply.value, how.id) } : reply;
    },

    canRemove: remove !== undefined,
    async remove(wanted, held) {
      if (!remove) return CANNOT;
      const reply = await call(line, remove.request, { ...wanted, id: held.id });
      return reply.ok ? { ok: true, value: null } : reply;
    },
  };

  function operationFor(before: HeldPerson | null) {
    if (write.how === 'upsert') return write.upsert;
    if (write.how === 'add') return write.add;
    return before ? write.change : write.make;
  }

  function standingRequest(to: Standing): RequestTemplate | undefined {
    if (to === 'subscribed') return subscription?.subscribe;
    return to === 'unsubscribed' ? subscription?.unsubscribe : undefined;
  }

  /**
   * Lists, groups and tags that the service takes by requests of their own, as far as the person is not in them yet, or
   * is still in them. Who is not known yet and has to be is looked for.
   */
  async function placeInto(change: PersonChange, known: HeldPerson | null): Promise<Reply<Placed>> {
    if (!place) return { ok: true, value: { moved: false } };
    let held = known;
    if (stepsOf(place, change, held).some((step) => needsHeld(step, held)) && connector.canLookFor(change)) {
      const found = await connector.find(change);
      if (!found.ok) return found;
      // Who was made a moment ago may not be found yet, and is in nothing.
      held = found.value ?? (known?.id ? known : null);
      if (!held && connector.shownAfterMs > 0) return { ok: false, fault: notSeen(connector.shownAfterMs) };
    }
    const steps = stepsOf(place, change, held);
    for (const { template, values } of steps) {
      const whole = replacedBy(template).length > 0 ? { ...template, body: asWhole(template.body) } : template;
      const { email, kind } = change;
      const sets = wholeSets(change, held, SETS);
      const reply = await call(line, whole, { email, kind, id: held?.id ?? '', ...sets, ...values });
      if (!reply.ok) return reply;
    }
    return { ok: true, value: { moved: steps.length > 0 } };
  }

  return connector;
}

/** One request by which somebody gets into a place, or out of it. */
interface PlaceStep {
  template: RequestTemplate;
  values: Record<string, string>;
}

/** The requests that it takes until somebody is where they are meant to be; what replaces a whole is sent once. */
function stepsOf(place: NonNullable<Profile['place']>, change: PersonChange, held: HeldPerson | null): PlaceStep[] {
  const { places, tags, leaves, tagsOff } = change;
  const lists = [...new Set(places.map(({ list }) => list))];
  const steps: [RequestTemplate | undefined, boolean, PlaceStep['values']][] = [
    ...lists.map((list): (typeof steps)[number] => [place.intoList, !held?.lists.includes(list), { list }]),
    ...places.map(({ list, group }): (typeof steps)[number] => [
      place.intoGroup,
      group !== '' && !held?.groups.includes(group),
      { list, group },
    ]),
    ...tags.map((tag): (typeof steps)[number] => [place.tag, !held?.tags.includes(tag), { tag }]),
    ...leaves.map((left): (typeof steps)[number] =>
      left.group === ''
        ? [place.outOfList, isStillIn(held?.lists, left.list), { list: left.list }]
        : [place.outOfGroup, isStillIn(held?.groups, left.group), { ...left }],
    ),
    ...tagsOff.map((tag): (typeof steps)[number] => [place.untag, isStillIn(held?.tags, tag), { tag }]),
  ];
  const needed = steps.flatMap(([template, isNeeded, values]) => (template && isNeeded ? [{ template, values }] : []));
  return needed.filter(
    ({ template }, index) =>
      replacedBy(template).length === 0 || needed.findIndex((other) => other.template === template) === index,
  );
}

/**
 * Whether somebody has to be looked for before a request can be made right: for their id, or for what they hold, which the answer
 * to a write need not show.
 */
const needsHeld = ({ template }: PlaceStep, held: HeldPerson | null): boolean =>
  (names(template, 'id') && !held?.id) || replacedBy(template).length > 0;

/** What somebody is to be in afterwards, as a whole: what is held, and ours, without what they are to leave. */
function wholeSets(
  { places, tags, leaves, tagsOff }: PersonChange,
  held: HeldPerson | null,
  wanted: readonly SetName[],
): Partial<Record<SetName, string[]>> {
  const whole = (ours: string[], there: string[] | undefined, left: string[]) => [
    ...new Set([...(there ?? []).filter((one) => !left.includes(one)), ...ours]),
  ];
  const sets: Record<SetName, string[]> = {
    lists: whole(
      places.map(({ list }) => list),
      held?.lists,
      leaves.flatMap(({ list, group }) => (group === '' ? [list] : [])),
    ),
    groups: whole(
      places.flatMap(({ group }) => (group === '' ? [] : [group])),
      held?.groups,
      leaves.flatMap(({ group }) => (group === '' ? [] : [group])),
    ),
    tags: whole(tags, held?.tags, tagsOff),
  };
  return Object.fromEntries(wanted.map((name) => [name, sets[name]]));
}

/** By what a request looks for somebody; '' where they have nothing of the kind. */
function whomIn(request: RequestTemplate, wanted: Wanted): string {
  const by = namesBy(request);
  if (by === null) return '';
  const [whom, field] = by === 'key' ? [wanted.key, wanted.keyField] : [wanted.email, wanted.emailField];
  return looksInField(request) && field === '' ? '' : whom;
}

/** Whether an answer of success says inside that there is no such person. */
const isNobody = ({ fault, answer }: { fault: Fault; answer: Answer }): boolean =>
  fault.cause === 'place gone' && answer.kind === 'answered' && answer.status < 300;

/** Whom nobody looked at may be in it. */
const isStillIn = (places: string[] | undefined, place: string): boolean => places?.includes(place) ?? true;
