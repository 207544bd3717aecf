import { targetCheck } from '../../check.ts';

export const refusesThoseWhoLeft = targetCheck({
  code: 'people who left are refused there',
  level: 'hint',
  why: 'Somebody who unsubscribed there and signs up again is held until there is proof that they want it.',
  find: ({ target, document: { consent }, catalogue: { can }, connection }) =>
    can.refusesLeft === true && target.places.some(({ list }) => list !== '') && consent.confirmedBy.by !== 'iwashi'
      ? [
          {
            part: 'target',
            message: `${connection?.name ?? 'The destination'} does not take back people who left, unless they confirmed anew.`,
            fix: 'Let people confirm by a mail from here: it is the proof that lets them in again.',
          },
        ]
      : [],
});
