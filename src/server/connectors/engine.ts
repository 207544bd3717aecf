import type { ExchangeView } from '../../contract/deliveries.ts';
import { looksInField, namesBy, type Profile, type RequestTemplate } from '../../contract/profile/index.ts';
import type { Fault, HeldPerson, Standing } from '../../core/delivery/index.ts';
import { shownAfterMs, type Access } from './access.ts';
import { call, clockOf, type Line } from './call.ts';
import { fetchCatalogue } from './catalogue.ts';
import type { Connector, PersonChange, Placed, Reply } from './connector.ts';
import type { Send } from './http.ts';
import { textAt } from '../../core/json/index.ts';
import { ANOTHER_PERSON, byOurClock, isOfPerson, recordIn } from './reading.ts';
import { togetherFor } from './together.ts';
import { writtenValues } from './written.ts';

const CANNOT: Reply<never> = {
  ok: false,
  fault: { cause: 'not permitted', said: 'This kind of service cannot do that.', waitMs: null },
};

/** A look without an address would find anybody. */
const WITHOUT_ADDRESS: Fault = { cause: 'incomplete request', said: 'The address', waitMs: null };

/** Speaks to a service as its profile says. */
export function createConnector(send: Send, access: Access, now: () => number, record: ExchangeView[] = []): Connector {
  const { profile } = access;
  const { find, write, place, make, remove, subscription, webhooks } = profile;
  const line: Line = { send, access, now, record };

  const connector: Connector = {
    canFind: find !== undefined,
    findsFirst: write.how === 'make or change',
    adds: write.how === 'add' && write.add.request.idempotencyHeader === undefined,
    makesTwice: write.how === 'make or change' && write.make.request.idempotencyHeader === undefined,
    shownAfterMs: shownAfterMs(profile),
    answersProve: operationsOf(write).every(({ record: shown, proves }) => shown !== undefined && proves === true),
    fetchCatalogue: () => fetchCatalogue(line),

    async find(wanted) {
      if (!find) return { ok: true, value: null };
      const by = namesBy(find.request);
      const [whom, field] = by === 'key' ? [wanted.key, wanted.keyField] : [wanted.email, wanted.emailField];
      if (looksInField(find.request) && field === '') return { ok: true, value: null };
      if (by === null || whom === '') return { ok: false, fault: WITHOUT_ADDRESS };
      const reply = await call(line, find.request, { ...wanted });
      if (!reply.ok) return reply;
      const found = byOurClock(recordIn(profile, find, reply.value), clockOf(reply.answer), line.now());
      return found && !isOfPerson(found, wanted) ? { ok: false, fault: ANOTHER_PERSON } : { ok: true, value: found };
    },

    async write(change, before, idempotencyKey) {
      const values = writtenValues(profile, change, before);
      const operation = operationFor(before);
      const reply = await call(line, operation.request, values, idempotencyKey);
      if (!reply.ok) return reply;
      const written = recordIn(profile, operation, reply.value);
      // An answer need not repeat the address; one that has another is not about this person.
      if (written && written.email !== '' && !isOfPerson(written, change)) return { ok: false, fault: ANOTHER_PERSON };
      return { ok: true, value: written };
    },

    place: placeInto,
    together: togetherFor(line),
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
   * is still in them.
   */
  async function placeInto(change: PersonChange, held: HeldPerson | null): Promise<Reply<Placed>> {
    let moved = false;
    if (!place) return { ok: true, value: { moved } };
    const { email, kind, places, tags, leaves, tagsOff } = change;
    const lists = [...new Set(places.map(({ list }) => list))];
    const steps: [RequestTemplate | undefined, boolean, Record<string, string>][] = [
      ...lists.map((list): [RequestTemplate | undefined, boolean, Record<string, string>] => [
        place.intoList,
        !held?.lists.includes(list),
        { list },
      ]),
      ...places.map(({ list, group }): [RequestTemplate | undefined, boolean, Record<string, string>] => [
        place.intoGroup,
        group !== '' && !held?.groups.includes(group),
        { list, group },
      ]),
      ...tags.map((tag): [RequestTemplate | undefined, boolean, Record<string, string>] => [
        place.tag,
        !held?.tags.includes(tag),
        { tag },
      ]),
      ...leaves.map((left): [RequestTemplate | undefined, boolean, Record<string, string>] =>
        left.group === ''
          ? [place.outOfList, isStillIn(held?.lists, left.list), { list: left.list }]
          : [place.outOfGroup, isStillIn(held?.groups, left.group), { ...left }],
      ),
      ...tagsOff.map((tag): [RequestTemplate | undefined, boolean, Record<string, string>] => [
        place.untag,
        isStillIn(held?.tags, tag),
        { tag },
      ]),
    ];
    for (const [template, isNeeded, values] of steps) {
      if (!template || !isNeeded) continue;
      const reply = await call(line, template, { email, kind, id: held?.id ?? '', ...values });
      if (!reply.ok) return reply;
      moved = true;
    }
    return { ok: true, value: { moved } };
  }

  return connector;
}

/** Whom nobody looked at may be in it. */
const isStillIn = (places: string[] | undefined, place: string): boolean => places?.includes(place) ?? true;

/** Every way in which a service is written to. */
function operationsOf(write: Profile['write']) {
  if (write.how === 'upsert') return [write.upsert];
  return write.how === 'add' ? [write.add] : [write.make, write.change];
}
