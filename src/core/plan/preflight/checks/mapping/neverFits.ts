import { fitValue, READY } from '../../../../mapping/index.ts';
import { answersOf, edgeValuesOf, type FieldValue, type TypeName } from '../../../../values/index.ts';
import { lineCheck, type CheckedLine } from '../../check.ts';

export const neverFits = lineCheck({
  code: 'type cannot fit',
  level: 'blocker',
  why: 'None of the values that can come would be taken: the field stays empty there for everybody.',
  find: (line) => {
    const { field, from, type } = line;
    return from && type !== null && canNeverFit(line)
      ? [
          {
            message: `${field.label} takes ${field.type}, and ${from.label} gives ${type}, which can never be that.`,
            fix: 'Choose another field, or add a step that turns one into the other.',
            ...(type === 'yes/no' && field.type === 'number' ? { mend: READY.oneOrZero } : {}),
          },
        ]
      : [];
  },
});

/** Whether nothing that the line can give is taken there, whoever it is of. */
export function canNeverFit({ field, from, type, line }: CheckedLine): boolean {
  // A text can be anything, and what comes is looked at then.
  if (!from || type === null || type === 'text' || type === 'long text' || field.type === 'choice') return false;
  const isChoice = type === 'choice' || type === 'several choices';
  const values = isChoice ? (line.steps.length === 0 ? answersOf(from) : []) : edgeValues(type);
  return values.length > 0 && !values.some((value) => fitValue({ ...field, choices: [] }, value).ok);
}

/** Some values of a type, among them every sort that it has. */
const edgeValues = (type: TypeName): FieldValue[] =>
  type === 'file' ? [A_FILE] : edgeValuesOf(type, 'yes', 'no', '1');

/** A file is never written as text. */
const A_FILE = {
  file: 'f',
  name: 'a.pdf',
  mediaType: 'application/pdf',
  size: 1,
  sha256: '',
  link: 'https://hill.example/files/f',
};
