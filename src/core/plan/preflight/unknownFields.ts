import { factFields } from '../../intake/index.ts';
import type { SourceField } from '../../values/index.ts';
import type { Found } from './check.ts';

/**
 * Whether everything that a text has in it is in the source.
 * @param used ids of fields, as `fieldsUsedIn` gives them
 * @param what the text is called, as in "The text for note has {x} in it"
 */
export function unknownAmong(used: string[], fields: SourceField[], what: string): Pick<Found, 'message' | 'fix'>[] {
  const known = factFields(fields);
  const unknown = used.filter((field) => !known.some(({ id }) => id === field));
  return unknown.length === 0
    ? []
    : [
        {
          message: `${what} has {${unknown.join('}, {')}} in it, which the live source does not have.`,
          fix: 'Write the field names as the source has them, or publish the source if the field is new.',
        },
      ];
}
