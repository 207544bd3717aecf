/** Why a service did not do what it was asked. */
export const ANSWER_CAUSES = [
  'credentials refused',
  'not permitted',
  'address invalid',
  'left there before',
  'address suppressed there',
  'required field missing',
  'value refused',
  'request not taken',
  'place gone',
  'conflict',
  'too large',
  'rate limited',
  'unavailable',
  'time-out',
  'answer unreadable',
] as const;

export type AnswerCause = (typeof ANSWER_CAUSES)[number];

/** Why an attempt did not end well: also what only Iwashi can tell. */
export const CAUSE_NAMES = [
  ...ANSWER_CAUSES,
  'not seen yet',
  'unclear',
  'incomplete request',
  'another person',
  'address not allowed',
  'differs after sending',
  'consent withdrawn',
  'agreed again',
  'to be ended by hand',
] as const;
export type Cause = (typeof CAUSE_NAMES)[number];

export interface CauseFacts {
  /** One sentence for the operator. */
  sentence: string;
  nextStep: string;
  /** retry: by itself, later. hold: until a person decides. drop: there is nothing that anybody could do. */
  action: 'retry' | 'hold' | 'drop';
}

/** What each cause means to the operator, and what Iwashi does about it. */
export const CAUSES: Record<Cause, CauseFacts> = {
  'credentials refused': {
    sentence: 'The other system does not accept our credentials any more.',
    nextStep: 'Replace them in the connection; what is held for this goes on by itself.',
    action: 'hold',
  },
  'not permitted': {
    sentence: 'The other system knows us, but does not permit this.',
    nextStep: 'Give our access the missing permission there, or replace it; then retry.',
    action: 'hold',
  },
  'address invalid': {
    sentence: 'The other system does not take this email address.',
    nextStep: 'Check the address for a typing mistake. If it is one, drop the delivery.',
    action: 'hold',
  },
  'left there before': {
    sentence: 'This person left the list there once, and is not taken back without a new confirmation.',
    nextStep: 'Ask the person to confirm; once they do, the delivery goes on with that proof.',
    action: 'hold',
  },
  'address suppressed there': {
    sentence: 'The other system has blocked this address, because mail to it came back or was complained about.',
    nextStep: 'Nothing to do: it was dropped. If the person writes to you, ask them for another address.',
    action: 'drop',
  },
  'required field missing': {
    sentence: 'A field that is required there got no value.',
    nextStep:
      'Set a value for those held, or map the field on the route, publish it, and retry under the present route.',
    action: 'hold',
  },
  'value refused': {
    sentence: 'The other system does not take one of the values.',
    nextStep: 'Change the mapping of that field, publish the route, then retry under the present route.',
    action: 'hold',
  },
  'request not taken': {
    sentence: 'The other system does not take requests made in this way, whoever they are about.',
    nextStep:
      'Compare what its service description says with its documentation, mend it under Connections, then retry.',
    action: 'hold',
  },
  'place gone': {
    sentence:
      'The other system says that nothing is there: the list, group or record that this goes to is gone, or its address is another one.',
    nextStep:
      'Verify the connection, look whether the place is still offered, choose another one in the route, then retry.',
    action: 'hold',
  },
  conflict: {
    sentence: 'The other system says that this is in conflict with what it holds.',
    nextStep: 'Look at the person there, then retry or drop.',
    action: 'hold',
  },
  'too large': {
    sentence: 'What was sent is more than the other system takes.',
    nextStep: 'Shorten the longest value in the mapping, publish the route, then retry under the present route.',
    action: 'hold',
  },
  'rate limited': {
    sentence: 'The other system asks us to go slower.',
    nextStep: 'Nothing to do: it is tried again at the time the other system named.',
    action: 'retry',
  },
  unavailable: {
    sentence: 'The other system could not be reached, or says it is out of order.',
    nextStep: 'Nothing to do yet: it is tried again. If it lasts, look at the connection.',
    action: 'retry',
  },
  'time-out': {
    sentence: 'The other system did not answer in time, so it is not clear whether it took the change.',
    nextStep: 'Nothing to do yet: Iwashi looks there before it tries again.',
    action: 'retry',
  },
  'answer unreadable': {
    sentence: 'The answer is not what this kind of service sends.',
    nextStep: 'Nothing to do yet: it is tried again. If it lasts, check the base URL of the connection.',
    action: 'retry',
  },
  'not seen yet': {
    sentence: 'It may be there, but the other system does not show it yet.',
    nextStep: 'Nothing to do yet: Iwashi looks there again, and sends nothing twice meanwhile.',
    action: 'retry',
  },
  unclear: {
    sentence: 'The connection broke after sending, and this service cannot be asked whether it arrived.',
    nextStep: 'Look there. If it arrived, say so; if not, retry.',
    action: 'hold',
  },
  'incomplete request': {
    sentence: 'A request was not sent: a part of it would have been empty, such as the id of the person there.',
    nextStep: 'Correct the connector profile, or look whether the person is there; then retry.',
    action: 'hold',
  },
  'another person': {
    sentence: 'The other system answered with the record of somebody else, so nothing more was sent.',
    nextStep: 'Correct how the connector profile finds a person by address, then retry.',
    action: 'hold',
  },
  'address not allowed': {
    sentence: 'The base URL leads to a private address, which this installation does not call.',
    nextStep: 'Correct the base URL of the connection.',
    action: 'hold',
  },
  'differs after sending': {
    sentence: 'The other system took it, but holds something else than what was sent.',
    nextStep: 'Compare the two columns; change the mapping, or retry.',
    action: 'hold',
  },
  'consent withdrawn': {
    sentence: 'The person withdrew their consent before this was sent.',
    nextStep: 'Nothing to do: it was dropped. If they sign up again, that counts anew.',
    action: 'drop',
  },
  'to be ended by hand': {
    sentence: 'They took back what they agreed to, and this destination cannot be told from here.',
    nextStep: 'Unsubscribe them there by hand, then say that it is done.',
    action: 'hold',
  },
  'agreed again': {
    sentence: 'The person agreed again before the other system was told that they had withdrawn.',
    nextStep: 'Nothing to do: it was dropped, and they stay subscribed.',
    action: 'drop',
  },
};

/** Causes by which a service shows that it may offer something else than was last fetched. */
export const CHANGED_THERE: Cause[] = ['required field missing', 'value refused', 'place gone'];
