export { fitValue, type DestinationField, type SentValue } from './destination.ts';
export { applyMapping, requiredFirst, type LineResult, type MapLine } from './mapping.ts';
export { STEPS, STEP_HELP, applyStep, type Step } from './steps.ts';
export { suggestLines } from './suggest.ts';
