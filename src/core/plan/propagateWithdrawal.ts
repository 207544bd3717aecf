import { CHANNEL_WORDS, hasTakenBack, stateFor, type Channel, type ConsentNeed } from '../consent/index.ts';
import type { ContactKey } from '../identity/index.ts';
import type { Abilities, Catalogue } from './catalogue.ts';
import { INTENT_FORMAT, type Intent } from './intent.ts';
import { agrees, type KnownPerson } from './knowledge.ts';
import { note, type Deliver, type Plan } from './planned.ts';

/** A shop that keeps by itself what people agreed to at its check-out, and knows the person. */
export interface AgreedThere {
  connectionId: string;
  routeId: string;
  routeVersion: number;
  /** The source that it is. */
  sourceId: string;
  /** What its boxes are asked for. */
  asks: ConsentNeed[];
}

/** Where a person gets something, and what is known of those places. */
export interface PropagationInput {
  known: Pick<KnownPerson, 'sent' | 'consent' | 'contact'>;
  agreedThere: AgreedThere[];
  catalogues: Record<string, Catalogue>;
  /** What connections are called, by their ids. */
  names: Record<string, string>;
  /** The connection that told it, which knows; '' for none. */
  toldBy: string;
}

/** What is withdrawn, in whose words. */
export interface Withdrawn {
  needs: ConsentNeed[];
  wording: string;
}

/** What a plan takes back that was not taken back before: whoever was told once is not told again. */
export const takenBackAnew = ({ consent }: Pick<Plan, 'consent'>, known: Pick<KnownPerson, 'consent'>) =>
  consent.filter(
    ({ kind, purpose, channel }) => kind === 'withdrawn' && !hasTakenBack(known.consent, { purpose, channel }),
  );

/**
 * Plans that every place is told where the person gets something on a consent that they took back: they are unsubscribed there, or
 * taken out of the places alone where they are subscribed for something else too. Each place once; whoever told it is not told back.
 */
export function propagateWithdrawal(plan: Plan, { needs, wording }: Withdrawn, input: PropagationInput): void {
  const done = new Set<string>();
  for (const place of placesFor(needs, input)) {
    const { connectionId, routeId, routeVersion, targetId, intent } = place;
    const { purpose, channel } = place.need;
    const name = input.names[connectionId] ?? 'a connection';
    const ends = endFor(place, needs, input);
    const key = `${connectionId} ${channel} ${ends === 'places' ? targetId : ''}`;
    if (done.has(key)) continue;
    done.add(key);
    // Where nothing can be said from here, somebody has to do it there: it stays open until they say that they did.
    const held: Deliver['held'] =
      ends === null ? { cause: 'to be ended by hand', message: `${name} takes nobody out from here.` } : null;
    if (held) note(plan, 'cannot be told', `${held.message} Somebody has to unsubscribe them there by hand.`);
    const action: Deliver = {
      kind: 'deliver',
      id: `end ${key}`,
      after: { kind: 'now' },
      needs: null,
      because: `They took back what they agreed to by ${CHANNEL_WORDS[channel]}, so ${name} is told.`,
      routeId,
      routeVersion,
      targetId,
      connectionId,
      intent: { ...ending(intent, ends ?? 'subscription'), purpose, channel, wording },
      held,
      leftOut: [],
    };
    plan.actions.push(action);
  }
}

interface TakenPlace {
  connectionId: string;
  routeId: string;
  routeVersion: number;
  targetId: string;
  need: ConsentNeed;
  intent: Pick<Intent, 'subject' | 'kind' | 'places'>;
}

/** Where the person gets something for what they took back. */
function placesFor(needs: ConsentNeed[], { known, agreedThere, toldBy }: PropagationInput): TakenPlace[] {
  const isTaken = (one: ConsentNeed) => needs.some((need) => isSame(need, one));
  const sent = known.sent.flatMap((one): TakenPlace[] => {
    const { purpose, channel, ends } = one.intent;
    return ends === null && purpose !== '' && isTaken({ purpose, channel })
      ? [{ ...one, need: { purpose, channel } }]
      : [];
  });
  const address = known.contact?.address ?? '';
  const key: ContactKey = { kind: 'email', value: address };
  const shops = agreedThere.flatMap(({ asks, sourceId, ...shop }): TakenPlace[] =>
    address === ''
      ? []
      : asks.filter(isTaken).map((need) => ({
          ...shop,
          targetId: sourceId,
          need,
          intent: { subject: [{ key, field: '' }], kind: '', places: [] },
        })),
  );
  return [...sent, ...shops].filter(({ connectionId }) => connectionId !== toldBy);
}

const isSame = (one: ConsentNeed, other: ConsentNeed): boolean =>
  one.purpose === other.purpose && one.channel === other.channel;

/** How what somebody gets at a place is ended; null where nothing can be done about it from here. */
function endFor(
  { connectionId, need, intent }: TakenPlace,
  needs: ConsentNeed[],
  { known, catalogues }: PropagationInput,
): Intent['ends'] {
  const can = catalogues[connectionId]?.can;
  const staysForAnother = known.sent.some(
    ({ connectionId: at, intent: { purpose, channel, ends } }) =>
      at === connectionId &&
      ends === null &&
      channel === need.channel &&
      !needs.some((one) => isSame(one, { purpose, channel })) &&
      (purpose === '' || agrees(stateFor(known.consent, { purpose, channel }))),
  );
  if (!staysForAnother && endsSubscriptions(can, need.channel)) return 'subscription';
  const isInPlaces = intent.places.length > 0 && can !== undefined;
  return isInPlaces && (can.leavesLists || can.leavesGroups) ? 'places' : null;
}

const endsSubscriptions = (can: Abilities | undefined, channel: Channel): boolean =>
  can?.unsubscribes?.includes(channel) ?? false;

/** What is meant where something ends: nobody is written about. */
const ending = (
  { subject, kind, places }: TakenPlace['intent'],
  ends: NonNullable<Intent['ends']>,
): Omit<Intent, 'purpose' | 'channel' | 'wording'> => ({
  format: INTENT_FORMAT,
  subject,
  kind,
  fields: {},
  rules: {},
  places: [],
  tags: [],
  leaves: places,
  tagsOff: [],
  ends,
  duplicates: 'update',
});
