import type { PlaceActInput, PlaceView } from '../../contract/people.ts';
import type { Channel } from '../../core/consent/index.ts';
import { fieldsFor, type Catalogue, type Intent } from '../../core/plan/index.ts';
import type { HeldPerson } from '../../core/delivery/index.ts';
import { inWordsBySight } from '../../core/values/index.ts';
import type { Connector, PersonChange, Reply } from '../connectors/connector.ts';
import { wantedOf } from '../connectors/wanted.ts';
import type { Context } from '../context.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction, type Alongside } from '../store/database.ts';
import { newestIntents } from '../store/deliveries.ts';
import { consentKey, readConsent } from '../store/people/index.ts';
import { connectorFor, openAccess, partsFor } from './open.ts';
import { withdraw } from './withdrawing.ts';

/** One place where a person was sent to. */
interface Place {
  connection: ConnectionRecord;
  intent: Intent;
}

/** Asks every system to which a person was delivered how it holds them now. */
export async function readPlaces(context: Context, contactId: string): Promise<PlaceView[]> {
  const places = await placesOf(context, contactId);
  return Promise.all(places.map((place) => readPlace(context, place)));
}

async function placesOf({ store }: Context, contactId: string): Promise<Place[]> {
  const found = await newestIntents(store.db, contactId);
  const places = await Promise.all(
    found.map(async ({ connectionId, intent }) => ({
      connection: await findConnection(store.db, connectionId),
      intent,
    })),
  );
  return places.flatMap(({ connection, intent }) =>
    connection?.catalogue?.can.readBack ? [{ connection, intent }] : [],
  );
}

async function readPlace(context: Context, place: Place): Promise<PlaceView> {
  const { connection, intent } = place;
  const opened = await openConnector(context, connection);
  const found = opened.ok ? await opened.value.find(wantedOf(intent)) : opened;
  const catalogue = connection.catalogue;
  return {
    connectionId: connection.id,
    connectionName: connection.name,
    kind: intent.kind,
    kindName: catalogue?.kinds.find(({ id }) => id === intent.kind)?.name ?? '',
    problem: found.ok ? null : found.fault.said || found.fault.cause,
    held: found.ok && found.value && catalogue ? heldView(found.value, intent, catalogue) : null,
    can: {
      leaveLists: catalogue?.can.leavesLists ?? false,
      leaveGroups: catalogue?.can.leavesGroups ?? false,
      untag: catalogue?.can.untags ?? false,
      standings: opened.ok ? opened.value.standings : [],
    },
  };
}

async function openConnector(context: Context, connection: ConnectionRecord): Promise<Reply<Connector>> {
  const opened = await openAccess(context, connection);
  return opened.ok ? { ok: true, value: connectorFor(partsFor(context, opened.value)) } : opened;
}

function heldView(
  { state, standing, lists, groups, tags, fields }: HeldPerson,
  { kind }: Intent,
  catalogue: Catalogue,
): NonNullable<PlaceView['held']> {
  const known = fieldsFor(catalogue, { kind, lines: [] });
  return {
    state,
    standing,
    tags,
    lists: lists.map((id) => ({ id, name: catalogue.lists.find((list) => list.id === id)?.name ?? id })),
    groups: groups.map((id) => {
      const list = catalogue.lists.find((candidate) => candidate.groups.some((group) => group.id === id));
      return { id, list: list?.id ?? '', name: list?.groups.find((group) => group.id === id)?.name ?? id };
    }),
    fields: Object.entries(fields).flatMap(([key, value]) =>
      value === null || value === ''
        ? []
        : [{ label: known.find((field) => field.key === key)?.label ?? key, value: inWordsBySight(value) }],
    ),
  };
}

/** @returns the place as it is afterwards, or why nothing was changed */
export async function changePlace(
  context: Context,
  contactId: string,
  input: PlaceActInput,
  { by, note }: { by: string; note: Alongside },
): Promise<{ ok: true; value: PlaceView } | { ok: false; problem: string }> {
  const places = await placesOf(context, contactId);
  const place = places.find(
    ({ connection, intent }) => connection.id === input.connectionId && intent.kind === input.kind,
  );
  if (!place) return { ok: false, problem: 'This person was never sent there.' };
  const { intent } = place;
  const opened = await openConnector(context, place.connection);
  if (!opened.ok) return { ok: false, problem: opened.fault.said || opened.fault.cause };
  const connector = opened.value;
  const wanted = wantedOf(intent);
  const found = await connector.find(wanted);
  if (!found.ok) return { ok: false, problem: found.fault.said || found.fault.cause };
  if (!found.value) return { ok: false, problem: 'Nobody of that address is there any more.' };
  const consent = (await readConsent(context.store.db, [contactId])).get(consentKey(contactId, intent)) ?? null;
  const { act, list, group, tag } = input;
  // Where nobody can be unsubscribed from here, somebody has to do it there: the place is told like all others, and becomes a task.
  const isDoneThere = act !== 'unsubscribe' || connector.standings.includes('unsubscribed');
  // First here: what the person asked for holds even when the other system is out of order, and when it tells us of it itself.
  if (act === 'unsubscribe') {
    // A person who is unsubscribed by hand has asked for it: the reason is the evidence.
    const about = {
      contactId,
      from: standsOn(intent),
      at: context.now(),
      wording: input.reason,
      toldBy: isDoneThere ? place.connection.id : '',
    };
    const evidence = { 'unsubscribed in': place.connection.name, by };
    await inTransaction(context.store, async (db) => {
      await withdraw(context, db, { ...about, evidence });
      await note(db);
    });
    if (!isDoneThere) return { ok: true, value: await readPlace(context, place) };
  }
  const [key, proof] = [context.newId(), consent?.proof ?? null];
  const done = await actOn(connector, {
    act,
    list,
    group,
    tag,
    wanted,
    held: found.value,
    proof,
    channel: intent.channel,
    key,
  });
  if (!done.ok) {
    const why = done.fault.said || done.fault.cause;
    return { ok: false, problem: act === 'unsubscribe' ? `${why} ${NOTED_HERE}` : why };
  }
  if (act !== 'unsubscribe') await inTransaction(context.store, note);
  return { ok: true, value: await readPlace(context, place) };
}

/** The consent that a delivery stood on; nothing where it needed none. */
const standsOn = ({ purpose, channel }: Intent) => (purpose === '' ? [] : [{ purpose, channel }]);

const NOTED_HERE = 'Here it is written down as consent withdrawn, and nothing more is sent for it. Try again later.';

type Act = Pick<PlaceActInput, 'act' | 'list' | 'group' | 'tag'> & {
  wanted: ReturnType<typeof wantedOf>;
  held: HeldPerson;
  proof: PersonChange['proof'];
  channel: Channel;
  /** By which the service knows a repeated request. */
  key: string;
};

async function actOn(
  connector: Connector,
  { act, list, group, tag, wanted, held, proof, channel, key }: Act,
): Promise<Reply<unknown>> {
  const nothing = { fields: {}, otherFields: {}, places: [], tags: [], leaves: [], tagsOff: [], proof };
  switch (act) {
    case 'take out':
      return connector.place({ ...wanted, ...nothing, leaves: [{ list, group }] }, held);
    case 'take tag off':
      return connector.place({ ...wanted, ...nothing, tagsOff: [tag] }, held);
    case 'put back': {
      const change = {
        ...wanted,
        ...nothing,
        places: list === '' ? [] : [{ list, group }],
        tags: tag === '' ? [] : [tag],
      };
      // Where one request makes or changes, it takes the places too.
      const written = connector.findsFirst ? null : await connector.write(change, held, key);
      return written && !written.ok ? written : connector.place(change, held);
    }
    case 'unsubscribe':
      return connector.setStanding(wanted, held, 'unsubscribed', { channel, proof: null });
    case 'subscribe':
      return connector.setStanding(wanted, held, 'subscribed', { channel, proof });
    default:
      return act satisfies never;
  }
}
