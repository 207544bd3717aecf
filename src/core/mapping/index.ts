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
  fieldsUsedIn,
  fillText,
  requiredFirst,
  withIds,
  withNames,
  type LineResult,
  type LineOrigin,
  type MapLine,
} from './mapping.ts';
export { applyStep, chainTrouble, STEP_KINDS, stepOf, stepsAfter, type Step, type StepKind } from './steps.ts';
export { lineId, suggestLines } from './suggest.ts';
