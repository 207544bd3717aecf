import { agreesBy, CHANNEL_WORDS, hasTakenBack, isEchoOf, stateFor, type Channel } from '../consent/index.ts';
import { addressIn } from '../identity/index.ts';
import { saidThere, type SaidThere } from '../intake/index.ts';
import type { KnownPerson, LiveRoute, PlanInput } from './input.ts';
import { asksIn, note, type After, type Plan, type PlannedConsent } from './planned.ts';
import type { ConsentAsk } from './route.ts';

/** A repeated sign-up within this time does not send a second confirmation. */
const CONFIRMATION_REST_MS = 10 * 60_000;

/** A consent that was asked for, and given in these words. */
export interface Given {
  ask: ConsentAsk;
  wording: string;
}

/** The words that a person agrees to: the tick's label as the form showed it, or the statement beside the button. */
export function wordingOf(
  { tickField }: Pick<ConsentAsk, 'tickField'>,
  { fields, statement }: Pick<PlanInput, 'fields' | 'statement'>,
): string {
  return tickField === '' ? statement : (fields.find(({ id }) => id === tickField)?.label ?? '');
}

/**
 * Notes for each consent that a route asks for whether it was given. A box left unticked is evidence of what was offered;
 * it takes nothing back.
 */
export function planConsent(plan: Plan, route: LiveRoute, input: PlanInput): { given: Given[]; refused: Given[] } {
  const given: Given[] = [];
  const refused: Given[] = [];
  const { imported, tells } = input;
  const saidBy = tells ? saidThere(tells, input.values) : {};
  for (const ask of route.document.consent.asks) {
    const said = saidBy[ask.tickField];
    const one = { ask, wording: said?.words || (imported ? imported.words : wordingOf(ask, input.shown ?? input)) };
    const isTicked = ask.tickField === '' || input.values[ask.tickField] === true;
    if (said && !imported) {
      (planSaid(plan, route, { ...one, said, isTicked }, input) ? given : refused).push(one);
      continue;
    }
    const isGiven = isTicked && (!imported || mayBeTakenOver(plan, route, ask, input));
    (isGiven ? given : refused).push(one);
    // Nobody who is in a list was offered anything by us.
    if (imported && !isGiven) continue;
    for (const channel of ask.channels)
      addConsent(plan, {
        kind: isGiven ? 'given' : 'not given',
        purpose: ask.purpose,
        channel,
        wording: one.wording,
        ...(said?.at == null ? {} : { at: said.at }),
      });
    if (imported) {
      if (imported.agreed === 'confirmed' && ask.channels.includes('email'))
        addConsent(plan, { kind: 'confirmed', purpose: ask.purpose, channel: 'email', wording: one.wording });
      continue;
    }
    const left = ask.channels.filter((channel) => hasTakenBack(input.known.consent, { purpose: ask.purpose, channel }));
    if (isGiven && left.length > 0)
      note(plan, 'left before', `${route.name}: they took back before what they agree to anew by "${one.wording}".`);
  }
  return { given, refused };
}

/**
 * Notes what somebody said elsewhere: each answer once, at the time when it was given, however often it is repeated since.
 * @returns whether they agree: a yes of before they took it back is none any more
 */
function planSaid(
  plan: Plan,
  route: LiveRoute,
  { ask, wording, said, isTicked }: Given & { said: SaidThere; isTicked: boolean },
  { known, now }: PlanInput,
): boolean {
  const at = Math.min(said.at ?? now, now);
  const ofAsk = known.consent.filter(
    ({ purpose, channel }) => purpose === ask.purpose && ask.channels.includes(channel),
  );
  // The newest answer by its own time counts, in whichever order they are told: a no of later, too.
  const left = ofAsk.some(
    (one) =>
      ((one.kind === 'withdrawn' || one.kind === 'refused') && one.at >= at) ||
      (one.kind === 'not given' && one.at > at),
  );
  if (isTicked && left) {
    note(plan, 'left before', `${route.name}: they said yes to "${wording}" before they took it back.`);
    return false;
  }
  for (const channel of ask.channels) {
    const own = ofAsk.filter((one) => one.channel === channel);
    // Whoever never agreed has nothing to take back.
    const takesBack = said.takesBack && own.some((one) => agreesBy(one.kind));
    const kind = isTicked ? 'given' : takesBack ? 'withdrawn' : 'not given';
    // Each answer is written by its own time, so that a yes of between two of them counts for nothing; a no that comes late takes
    // back nothing that was said after it, and one that does not say when is a repetition of what is known.
    const isNewer = own.some((one) => agreesBy(one.kind) && one.at > at);
    const isRepeated = said.at === null && hasTakenBack(own, { purpose: ask.purpose, channel });
    const isEcho = isNewer || isRepeated || isEchoOf(own, { purpose: ask.purpose, channel }, at);
    const isKnown = own.some((one) => one.kind === kind && one.at === at) || (kind === 'withdrawn' && isEcho);
    if (!isKnown) addConsent(plan, { kind, purpose: ask.purpose, channel, wording, at });
  }
  return isTicked;
}

/** Whether what a list says of somebody's consent may be taken over: never where they took it back here. */
function mayBeTakenOver(plan: Plan, route: LiveRoute, ask: ConsentAsk, { known, imported }: PlanInput): boolean {
  if (imported?.agreed === 'no') return false;
  const left = ask.channels.some((channel) => hasTakenBack(known.consent, { purpose: ask.purpose, channel }));
  if (left) note(plan, 'left before', `${route.name}: they took it back before, and a list cannot give it again.`);
  return !left;
}

/** Whether the person proved that the address is theirs, for a purpose. */
export const isConfirmedFor = (consent: KnownPerson['consent'], purpose: string): boolean =>
  stateFor(consent, { purpose, channel: 'email' }) === 'confirmed';

/** Whether the person proved once that the address is theirs. */
export function isConfirmedForAnything({ consent }: KnownPerson): boolean {
  const purposes = new Set(consent.map(({ purpose }) => purpose));
  return [...purposes].some((purpose) => isConfirmedFor(consent, purpose));
}

/** The address at which a person can be asked; '' for none. */
export const addressToAsk = ({ keys, known }: PlanInput): string => addressIn(keys) || (known.contact?.address ?? '');

/**
 * Plans the mail that asks to confirm, once for each purpose that needs it.
 * @param about.purposes those that were agreed to, and are confirmed by us
 * @param about.changes whether something of a confirmed person would be changed, which they are asked about
 * @returns when what stands on a purpose may be done
 */
export function planAsking(
  plan: Plan,
  route: LiveRoute,
  { input, purposes, changes }: { input: PlanInput; purposes: string[]; changes: boolean },
): (purpose: string) => After {
  const isConfirmed = (purpose: string) => isConfirmedFor(input.known.consent, purpose);
  const before = purposes.filter(isConfirmed);
  if (before.length > 0 && changes)
    note(
      plan,
      'change asked for',
      `${route.name}: this changes something of a confirmed person, who is asked to confirm it.`,
    );
  if (before.length > 0 && !changes)
    note(plan, 'confirmed before', `${route.name}: confirmed before, so no confirmation is sent.`);
  const open = changes ? purposes : purposes.filter((purpose) => !isConfirmed(purpose));
  const asked = asksIn(plan);
  const toAsk = open.filter((purpose) => !asked.some((ask) => ask.purposes.includes(purpose)));
  if (toAsk.length > 0) addAsk(plan, route, toAsk, input);
  return (purpose) => {
    const ask = open.includes(purpose) ? asksIn(plan).find((one) => one.purposes.includes(purpose)) : undefined;
    return ask ? { kind: 'confirmed', action: ask.id } : { kind: 'now' };
  };
}

function addAsk(plan: Plan, route: LiveRoute, purposes: string[], { known, now, ...input }: PlanInput): void {
  const { mail, expiresHours } = route.document.consent;
  const open = known.openConfirmations.find(
    (candidate) =>
      now - candidate.lastSentAt < CONFIRMATION_REST_MS &&
      purposes.every((purpose) => candidate.purposes.includes(purpose)),
  );
  if (open)
    note(plan, 'asked minutes ago', `${route.name}: a confirmation went out minutes ago; no second one is sent.`);
  else
    for (const purpose of purposes)
      addConsent(plan, { kind: 'asked', purpose, channel: 'email', wording: mail.subject });
  plan.actions.push({
    kind: 'ask',
    id: `ask ${route.id}`,
    after: { kind: 'now' },
    needs: null,
    because: 'They agreed, and have to confirm that the address is theirs.',
    routeId: route.id,
    purposes,
    to: addressToAsk({ known, now, ...input }),
    mail,
    expiresHours,
    joins: open?.id ?? null,
  });
}

function addConsent(plan: Plan, event: PlannedConsent): void {
  const isSame = ({ kind, purpose, channel }: PlannedConsent) =>
    kind === event.kind && purpose === event.purpose && channel === event.channel;
  if (!plan.consent.some(isSame)) plan.consent.push(event);
}

/** A channel as it is said of consent: "by text message". */
export const byChannel = (channel: Channel): string => `by ${CHANNEL_WORDS[channel]}`;
