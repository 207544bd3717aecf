import type { Channel } from '../../../../consent/index.ts';
import type { RouteDocument, Target } from '../../../route.ts';
import { targetCheck } from '../../check.ts';

/** What a target needs people to have agreed to; null where it needs nothing. */
const purposeOf = ({ consent }: RouteDocument, { needs }: Target): { purpose: string; channel: Channel } | null => {
  const ask = needs && consent.asks.find(({ id }) => id === needs.ask);
  return ask && ask.purpose !== '' ? { purpose: ask.purpose, channel: needs.channel } : null;
};

export const listOfAnotherPurpose = targetCheck({
  code: 'the list is for another purpose',
  level: 'warning',
  why: 'Who is in a list gets what the others in it get: people would be sent what they never agreed to.',
  find: ({ target, document, catalogue, purposes, everywhere }) => {
    const own = purposeOf(document, target);
    if (!own) return [];
    const nameOf = (id: string) => purposes.find((one) => one.id === id)?.name ?? 'another purpose';
    return [...new Set(target.places.map(({ list }) => list))].flatMap((list) => {
      const served = everywhere.flatMap((other) =>
        other.document.targets
          .filter((one) => one.connectionId === target.connectionId && one.places.some((place) => place.list === list))
          .flatMap((one) => purposeOf(other.document, one) ?? [])
          .map(({ purpose }) => ({ purpose, route: other.name })),
      );
      const [first] = served;
      if (!first || served.some(({ purpose }) => purpose === own.purpose)) return [];
      const name = catalogue.lists.find(({ id }) => id === list)?.name ?? list;
      return [
        {
          part: 'target' as const,
          message: `${name} is for those who agreed to "${nameOf(first.purpose)}" (${first.route}); here people agree to "${nameOf(own.purpose)}".`,
          fix: `Choose another list, or ask for consent to "${nameOf(first.purpose)}". Let it stand only if the list is for both.`,
        },
      ];
    });
  },
});
