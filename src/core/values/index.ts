export { withoutControls } from './types/text.ts';
export { normaliseEmail, parseEmail } from './email.ts';
export {
  answersOf,
  FIELD_PARTS,
  FIELD_TYPES,
  isEmpty,
  isTick,
  isTicked,
  KEEP_RULES,
  neededMessage,
  parseChoice,
  parseFieldValue,
  PLAIN_RANGE,
  plainField,
  printValue,
  sentFor,
  takesFile,
  TRUSTS,
  WIDGETS,
  widgetsOf,
  WIDTHS,
} from './fields.ts';
export type { KeepRule, Range, SourceField, Trust, Widget, Width } from './fields.ts';
export {
  convert,
  edgeValuesOf,
  holds,
  inWords,
  inWordsBySight,
  inWordsOfType,
  shapeOf,
  shapeOfType,
  TYPE_NAMES,
  typeOf,
  type FieldValue,
  type FieldValues,
  type TypeName,
} from './registry.ts';
export { dayIn, isInForce, type Membership } from './types/membership.ts';
export { COUNTRY_CODES } from './types/country.ts';
export { readDecimal } from './types/number.ts';
export { ISO_DAY } from './types/date.ts';
export { inBytes, isFile, nameAndSize, type FileValue } from './types/file.ts';
export { oneLine } from './types/text.ts';
export { isListOfRecords, readRecords } from './types/records.ts';
export { UNKNOWN_MANNER } from './type.ts';
