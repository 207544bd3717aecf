export {
  DESTINATION_FIELD_TYPES,
  fitValue,
  type DestinationField,
  type DestinationFieldType,
  type SentValue,
} from './destination.ts';
export {
  applyMapping,
  fieldsUsed,
  requiredFirst,
  withIds,
  withNames,
  type LineResult,
  type LineOrigin,
  type MapLine,
} from './mapping.ts';
export { STEPS, STEP_HELP, applyStep, type Step } from './steps.ts';
export { lineId, suggestLines } from './suggest.ts';
