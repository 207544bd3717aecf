import { identifyingFields } from '../../../../identity/index.ts';
import type { DestinationField } from '../../../../mapping/index.ts';
import { fieldsFor } from '../../../catalogue.ts';
import { lineCheck } from '../../check.ts';

/** The field by which a destination knows people: its required address, or its first. */
const identityField = (destination: DestinationField[]): DestinationField | undefined =>
  destination.find(({ type, required, ours }) => type === 'email' && required && !ours) ??
  destination.find(({ type, ours }) => type === 'email' && !ours);

export const wrongAddress = lineCheck({
  code: 'another address than the one that identifies',
  level: 'blocker',
  why: "A friend's address in that field makes the friend the person who signed up.",
  find: ({ field, from, source, targetOf, catalogue }) =>
    from && field === identityField(fieldsFor(catalogue, targetOf)) && !identifyingFields(source.fields).includes(from)
      ? [
          {
            message: `${field.label} has to be the address that identifies the person, and ${from.label} is not.`,
            fix: "Map the email field that is kept as the contact's email.",
          },
        ]
      : [],
});
