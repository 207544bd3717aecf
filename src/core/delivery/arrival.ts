import type { ProvedBy, ReadBackRow } from './readBack.ts';
import type { DeliveryState } from './transition.ts';

/** What is known of how a delivery ended. */
interface HowItEnded {
  state: DeliveryState;
  provedBy: ProvedBy | null;
  readBack: ReadBackRow[] | null;
}

/**
 * The word for a delivery. *Delivered* is said only where a look there, its answer or a person showed it; what was taken by a
 * service that cannot be asked is *accepted*.
 */
export const deliveryWord = ({ state, provedBy, readBack }: HowItEnded): DeliveryState | 'accepted' =>
  // What was read back before it was noted how is known by a look: there was no other way.
  state === 'delivered' && provedBy === null && (readBack ?? []).length === 0 ? 'accepted' : state;

/** How it is known that a delivery arrived, in a sentence; null where what was read back says it, or it has not arrived. */
export function howItIsKnown(delivery: HowItEnded): string | null {
  if (delivery.state !== 'delivered') return null;
  if (deliveryWord(delivery) === 'accepted')
    return 'It was accepted there. Nobody can look from here whether it arrived.';
  if (delivery.provedBy === 'person') return 'Somebody looked there, and said that it is so.';
  return (delivery.readBack ?? []).length === 0 ? 'The person was looked for there, and nothing was left to do.' : null;
}

/** What is known of what arrived of a submission, all its parts taken together; the least that is known of any decides. */
export const ARRIVED = ['delivered', 'accepted', 'sent'] as const;
export type Arrived = (typeof ARRIVED)[number];

/** What is said of what was sent at a try: null where it is shown. @param exchanges null once they are not kept any more */
export function sentInWords(exchanges: unknown[] | null): string | null {
  if (exchanges === null) return 'What was sent and answered is not kept any more; how it ended is.';
  return exchanges.length === 0 ? 'Nothing was sent.' : null;
}
