import type { Check, Checked } from '../../check.ts';
import type { Target } from '../../../route.ts';

/** The lists that a target fills, as connection and list. */
const listsFilled = ({ connectionId, places }: Target): string[] =>
  places.filter(({ list }) => list !== '').map(({ list }) => `${connectionId} ${list}`);

const nameOf = ({ catalogues }: Checked, { connectionId }: Target, key: string): string => {
  const id = key.slice(connectionId.length + 1);
  return catalogues[connectionId]?.lists.find((list) => list.id === id)?.name ?? id;
};

export const sameListTwice: Check = {
  code: 'the same list twice',
  level: 'warning',
  why: 'Two deliveries for one person overwrite each other, and which is last is chance.',
  find: (checked) => {
    const { document, others } = checked;
    return document.targets.flatMap((target, index) =>
      [...new Set(listsFilled(target))].flatMap((list) => {
        const name = nameOf(checked, target, list);
        const earlier = document.targets.slice(0, index).some((other) => listsFilled(other).includes(list));
        const here = earlier
          ? [{ message: `Two targets of this route put people into ${name}.`, fix: 'Make one target of them.' }]
          : [];
        const elsewhere = others
          .filter(({ document: other }) => other.targets.some((one) => listsFilled(one).includes(list)))
          .map(({ name: route }) => ({
            message: `The route "${route}" puts people of the same source into ${name} as well.`,
            fix: 'Pause one of the two, or let each have a list or a condition of its own.',
          }));
        return [...here, ...elsewhere].map((found) => ({ ...found, part: 'target' as const, target: index }));
      }),
    );
  },
};
