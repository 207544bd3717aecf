export { CAUSES, type Cause } from './causes.ts';
export { classifyAnswer, type Answer, type ErrorRule, type Fault } from './outcome.ts';
export { compareReadBack, type HeldPerson, type ReadBackRow } from './readBack.ts';
export { readRetryAfter } from './retryAfter.ts';
export { nextAttempt } from './schedule.ts';
export { DELIVERY_STATES, statesBefore, transition, type DeliveryEvent, type DeliveryState } from './transition.ts';
