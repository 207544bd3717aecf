import { targetCheck } from '../../check.ts';

export const takesAway = targetCheck({
  code: 'what is there may be taken away',
  level: 'warning',
  why: 'The request sends a whole, and what somebody has there already cannot be read, so it cannot be sent along.',
  find: ({ target, catalogue: { can }, connection }) => {
    const used = {
      lists: target.places.some(({ list }) => list !== ''),
      groups: target.places.some(({ group }) => group !== ''),
      tags: target.tags.length > 0,
    };
    const words = (can.takesAway ?? []).filter((name) => used[name]);
    return words.length === 0
      ? []
      : [
          {
            part: 'target' as const,
            message: `Whoever is at ${connection?.name ?? 'the destination'} already may lose the ${words.join(' and ')} that they have there: ours take their place.`,
            fix: 'Say in its connector profile where they stand in a record there, or try it with somebody who has some.',
          },
        ];
  },
});
