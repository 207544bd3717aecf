import { chainTrouble, fieldsUsed, requiredFirst, stepInWords, type DestinationField } from '../../mapping/index.ts';
import { factFields, VISIT_FIELDS } from '../../intake/index.ts';
import { identifyingFields } from '../../identity/index.ts';
import type { SourceField } from '../../values/index.ts';
import { fieldsFor, type Catalogue } from '../catalogue.ts';
import type { Target } from '../route.ts';
import { conditionFindings } from './conditions.ts';
import { blocker, warning, type Finding } from './finding.ts';
import { placeFindings } from './places.ts';
import { unknownFields } from './unknownFields.ts';

/** The field by which a destination knows people: its required address, or its first. */
const identityField = (destination: DestinationField[]): DestinationField | undefined =>
  destination.find(({ type, required, ours }) => type === 'email' && required && !ours) ??
  destination.find(({ type, ours }) => type === 'email' && !ours);

/** Whether a target has a connection, a place, a condition that can be decided, and a mapping that fills what is required. */
export function targetFindings(
  target: Target,
  catalogue: Catalogue | undefined,
  { fields, knowledge }: { fields: SourceField[]; knowledge: SourceField[] },
): Finding[] {
  if (!catalogue)
    return [blocker('target', 'The target has no verified connection.', 'Choose a connection, and verify it.')];
  const findings = [...placeFindings(target, catalogue), ...conditionsOf(target, fields, knowledge)];
  const destination = fieldsFor(catalogue, target);
  const known = factFields(fields);
  const lines = new Map(target.lines.map((line) => [line.to, line]));
  for (const field of requiredFirst(destination)) {
    const line = lines.get(field.key);
    const origin = line?.from.kind === 'field' ? line.from.field : null;
    const sourceField = known.find(({ id }) => id === origin);
    if (!line) {
      if (field.required)
        findings.push(
          blocker(
            'mapping',
            `${field.label} is required there, and nothing is mapped to it.`,
            'Map a field to it, or give it a fixed value.',
          ),
        );
      continue;
    }
    if (origin !== null && !sourceField) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} is filled from "${origin}", which the live source does not have.`,
          'Publish the source if the field is new, or choose another field.',
        ),
      );
      continue;
    }
    // One does not hide another: all that is wrong with a field is said at once.
    if (field.ours && (sourceField || fieldsUsed(line).length > 0)) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} is an address or word of your own, and would be filled with what the visitor says.`,
          'Choose "a fixed value", and enter your own.',
        ),
      );
    }
    if (field === identityField(destination) && sourceField && !identifyingFields(fields).includes(sourceField)) {
      findings.push(
        blocker(
          'mapping',
          `${field.label} has to be the address that identifies the person, and ${sourceField.label} is not.`,
          "Map the email field that is kept as the contact's email.",
        ),
      );
    }
    if (field.required && sourceField && !sourceField.required && sourceField.widget !== 'hidden') {
      const [why, fix] = VISIT_FIELDS.includes(sourceField)
        ? [`not every submission says its ${sourceField.label}.`, 'Choose a field that everybody fills in.']
        : [`visitors may leave ${sourceField.label} empty.`, `Make ${sourceField.label} required in the source.`];
      findings.push(warning('mapping', `${field.label} is required there, but ${why}`, fix));
    }
  }
  for (const line of target.lines) {
    const start = line.from.kind === 'field' ? line.from.field : null;
    const from = known.find(({ id }) => id === start);
    const trouble = from && chainTrouble(from.type, line.steps);
    if (trouble)
      findings.push(
        blocker(
          'mapping',
          `${destination.find(({ key }) => key === line.to)?.label ?? line.to}: the step "${stepInWords(trouble.step)}" cannot take ${aOrAn(trouble.came)}.`,
          trouble.mend
            ? `Put the step "${stepInWords(trouble.mend)}" before it, or take it away.`
            : 'Take the step away.',
        ),
      );
    if (line.overwrite !== null && line.overwrite !== 'latest' && !catalogue.can.duplicates.includes('fill gaps'))
      findings.push(
        blocker(
          'mapping',
          `${line.to} goes by what is there already, and nobody can be looked for there.`,
          'Let the latest value win.',
        ),
      );
    if (line.from.kind !== 'field')
      findings.push(...unknownFields(fieldsUsed(line), fields, { part: 'mapping', what: `The text for ${line.to}` }));
    if (!destination.some(({ key }) => key === line.to)) {
      findings.push(warning('mapping', `"${line.to}" is mapped, but is no field there any more.`, 'Remove the line.'));
    }
  }
  return findings;
}

const aOrAn = (word: string): string => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`;

/** Whether what decides who goes there, into which place, with which tag, can be decided. */
const conditionsOf = (
  { when, places, tags, lines }: Target,
  fields: SourceField[],
  knowledge: SourceField[],
): Finding[] => [
  ...conditionFindings(when, fields, { part: 'target', what: 'It is', knowledge }),
  ...places.flatMap((place) =>
    conditionFindings(place.when, fields, { part: 'target', what: 'A place is', knowledge }),
  ),
  ...tags.flatMap((tag) =>
    conditionFindings(tag.when, fields, { part: 'tags', what: `The tag "${tag.tag}" is`, knowledge }),
  ),
  ...lines.flatMap((line) =>
    conditionFindings(line.when, fields, { part: 'mapping', what: `The line for ${line.to} is`, knowledge }),
  ),
];
