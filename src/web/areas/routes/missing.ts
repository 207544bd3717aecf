import { fieldsAskedFor } from '../../../core/conditions/index.ts';
import { fieldsUsed, type DestinationFieldType } from '../../../core/mapping/index.ts';
import { conditionsIn, type Abilities, type Target } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';

/** The fields of a source that nothing of a target uses: what visitors say there is lost on the way to it. */
export function unusedFields(target: Target, fields: SourceField[], consentFields: string[]): SourceField[] {
  const used = new Set([
    ...target.lines.flatMap(fieldsUsed),
    ...conditionsIn(target).flatMap(fieldsAskedFor),
    ...consentFields,
  ]);
  return fields.filter(({ id }) => !used.has(id));
}

/** The type that a field is made of there: its own where the service has it, the nearest otherwise, and text at last. */
export function typeThere(
  { type }: Pick<SourceField, 'type'>,
  can: Pick<Abilities, 'makesTypes'> | undefined,
): DestinationFieldType {
  const types = can?.makesTypes ?? [];
  return [type, ...(NEAREST[type] ?? [])].find((one) => types.includes(one)) ?? 'text';
}

const NEAREST: Partial<Record<DestinationFieldType, DestinationFieldType[]>> = {
  'date-time': ['date'],
  'long text': ['text'],
  money: ['number'],
};
