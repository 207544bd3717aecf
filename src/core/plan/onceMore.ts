import { hasTakenBack, type ConsentNeed } from '../consent/index.ts';
import type { KnownPerson } from './knowledge.ts';
import { asksIn, deliveriesIn, type Plan } from './planned.ts';

/**
 * What is still to be done of the plan of something that is there already and is sent once more: deliveries, and no mail but a
 * confirmation that nobody was asked for before.
 * @param wasAskedHere whether the same round has asked the person for a purpose
 */
export function onceMore(
  plan: Plan,
  { consent, openConfirmations }: Pick<KnownPerson, 'consent' | 'openConfirmations'>,
  wasAskedHere: (purpose: string) => boolean,
): Plan {
  // They agreed when they sent it, and may have taken that back since: it is not what they sent that counts.
  const hasLeft = (needs: ConsentNeed | null) => needs !== null && hasTakenBack(consent, needs);
  const wanted = deliveriesIn(plan).filter(({ needs }) => !hasLeft(needs));
  const wasAsked = (purpose: string) =>
    wasAskedHere(purpose) || consent.some((event) => event.purpose === purpose && event.kind === 'asked');
  const asks = asksIn(plan).flatMap((ask) => {
    // Nobody is asked for what leads to nothing.
    if (!wanted.some(({ after }) => after.kind === 'confirmed' && after.action === ask.id)) return [];
    const open = openConfirmations.find(({ purposes }) => ask.purposes.every((one) => purposes.includes(one)));
    // Whoever has not answered yet answers for this as well; whoever let it pass is not asked again.
    if (open) return [{ ...ask, joins: open.id }];
    return ask.purposes.some(wasAsked) ? [] : [ask];
  });
  const deliveries = wanted.filter(({ after }) => after.kind === 'now' || asks.some(({ id }) => id === after.action));
  const anew = new Set(asks.flatMap(({ joins, purposes }) => (joins === null ? purposes : [])));
  return {
    ...plan,
    actions: [...asks, ...deliveries],
    consent: plan.consent.filter(({ kind, purpose }) => kind === 'asked' && anew.has(purpose)),
  };
}
