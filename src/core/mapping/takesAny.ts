import { answersOf, edgeValuesOf, type FieldValue, type SourceField, type TypeName } from '../values/index.ts';
import { fitValue, type DestinationField } from './destination.ts';

/**
 * Whether a field of a destination takes anything of a type. Which choices it has is not looked at: they are looked up.
 * @param from the field whose answers arrive as they are, where a choice is handed on; null where a step made it
 */
export function takesAny(field: DestinationField, type: TypeName, from: SourceField | null): boolean {
  // A text can be anything, and what comes is looked at then.
  if (type === 'text' || type === 'long text' || field.type === 'choice') return true;
  const isChoice = type === 'choice' || type === 'several choices';
  const values = isChoice ? (from ? answersOf(from) : []) : edgeValues(type);
  return values.length === 0 || values.some((value) => fitValue({ ...field, choices: [] }, value).ok);
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
