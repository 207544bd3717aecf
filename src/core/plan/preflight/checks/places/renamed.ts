import type { DestinationField, FormerName } from '../../../../mapping/index.ts';
import { fieldsFor, type CatalogueItem } from '../../../catalogue.ts';
import { targetCheck } from '../../check.ts';

/** For how long a new name is worth a word. */
const LATELY_MS = 30 * 86_400_000;

export const renamed = targetCheck({
  code: 'renamed there of late',
  level: 'warning',
  why: 'A list that is used for something else now keeps its id: people would arrive where nobody expects them.',
  find: ({ target, catalogue, now }) => {
    const { lists, kinds, tags, can } = catalogue;
    const said = (word: string, name: string, { formerly }: { formerly?: FormerName }, part: 'target' | 'mapping') =>
      formerly && now - formerly.until < LATELY_MS
        ? [
            {
              part,
              message: `The ${word} "${formerly.name}" is called "${name}" there now.`,
              fix: `Look whether it is still the ${word} that is meant; if so, let it stand.`,
            },
          ]
        : [];
    const item = (word: string, found: CatalogueItem | undefined) =>
      found ? said(word, found.name, found, 'target') : [];
    const field = (one: DestinationField) =>
      said('field', one.label, one, 'mapping').map((found) => ({ ...found, line: one.key }));
    const filled = fieldsFor(catalogue, target).filter(({ key }) => target.lines.some(({ to }) => to === key));
    return [
      ...target.places.flatMap(({ list: id, group }) => {
        const list = lists.find((one) => one.id === id);
        return [
          ...item(can.calls.list, list),
          ...item(
            can.calls.group,
            list?.groups.find((one) => one.id === group),
          ),
        ];
      }),
      ...item(
        can.calls.kind,
        kinds.find(({ id }) => id === target.kind),
      ),
      // A tag is set by its name: under the former one a second tag would be made.
      ...target.tags.flatMap(({ tag }) => {
        const here = tags.find(({ name }) => name === tag);
        return item('tag', here ?? tags.find(({ formerly }) => formerly?.name === tag)).map((found) => ({
          ...found,
          part: 'tags' as const,
        }));
      }),
      ...filled.flatMap(field),
    ];
  },
});
