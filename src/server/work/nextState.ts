import type { ExchangeView } from '../../contract/deliveries.ts';
import { nextAttempt, DELIVERING, type DeliveryEvent, type DeliveryState } from '../../core/delivery/index.ts';
import type { DeliveryRecord, TryEnd } from '../store/deliveries.ts';
import { withWhatWasDone, type AttemptOutcome } from '../connecting/attemptDelivery.ts';

/** A try that is over, and not stored yet. */
export interface FinishedAttempt {
  delivery: DeliveryRecord;
  ending: AttemptOutcome;
  startedAt: number;
  exchanges: ExchangeView[];
}

const OUTCOMES = { retry: 'failed, tried again later', hold: 'failed, held', drop: 'failed, dropped' };

/** What becomes of a delivery after a try. @param random a number in [0, 1) */
export function nextState(
  { delivery, ending, startedAt, exchanges }: FinishedAttempt,
  now: number,
  random = Math.random(),
): TryEnd {
  const attempt = { startedAt, exchanges };
  if (ending.kind === 'delivered') {
    return {
      id: delivery.id,
      owner: delivery.leaseOwner,
      end: {
        state: after(delivery, 'delivered'),
        cause: null,
        causeDetail: '',
        dueAt: now,
        readBack: ending.rows,
        provedBy: ending.provedBy,
        endedAt: now,
        begunAt: null,
      },
      attempt: { ...attempt, outcome: ending.outcome, cause: null, said: '' },
    };
  }
  const { rows } = ending;
  const fault = withWhatWasDone(ending);
  const next = nextAttempt(delivery.tries, fault, now, random);
  const event: DeliveryEvent = next.kind === 'retry' ? 'failed for now' : next.kind === 'drop' ? 'given up' : 'stopped';
  return {
    id: delivery.id,
    owner: delivery.leaseOwner,
    end: {
      state: after(delivery, event),
      cause: fault.cause,
      causeDetail: fault.said,
      dueAt: next.kind === 'retry' ? next.at : now,
      readBack: rows ?? delivery.readBack,
      provedBy: rows ? 'look' : delivery.provedBy,
      endedAt: next.kind === 'retry' ? null : now,
      begunAt: ending.mayBeThere ? (delivery.begunAt ?? startedAt) : null,
    },
    attempt: {
      ...attempt,
      outcome: OUTCOMES[next.kind],
      cause: fault.cause,
      said: fault.said,
    },
  };
}

/** @throws when the event does not apply: only a delivery that is being sent is concluded */
function after({ id, state }: DeliveryRecord, event: DeliveryEvent): DeliveryState {
  const next = DELIVERING.after(state, event);
  if (next === null) throw new Error(`delivery ${id} is ${state}, so "${event}" does not apply`);
  return next;
}
