export { looksFirst, overwriting, ruleFor } from './overwriting.ts';
export { ARRIVED, deliveryWord, howItIsKnown, sentInWords, type Arrived } from './arrival.ts';
export { ANSWER_CAUSES, CAUSE_NAMES, CAUSES, CHANGED_THERE, type AnswerCause, type Cause } from './causes.ts';
export { afterOutcome, HEALTHY, isTryingOut, type Health } from './breaker.ts';
export { takeFromBudget, type Pace } from './budget.ts';
export { classifyAnswer, type Answer, type ErrorReading, type ErrorRule, type Fault } from './outcome.ts';
export {
  compareEnd,
  compareReadBack,
  PROVED_BY,
  standingTrouble,
  STANDINGS,
  type HeldPerson,
  type ProvedBy,
  type ReadBackRow,
  type Standing,
} from './readBack.ts';
export { readRetryAfter } from './retryAfter.ts';
export { readRemainingBudget } from './remainingBudget.ts';
export { LONGEST_ASKED_MS, LONGEST_WAIT_MS, nextAttempt } from './schedule.ts';
export { DELIVERING, DELIVERY_STATES, HOLDING_BACK, type DeliveryEvent, type DeliveryState } from './transition.ts';
export { trialState, type TargetTrial, type TrialState } from './trial.ts';
