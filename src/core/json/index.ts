export { depthOf } from './depth.ts';
export {
  all,
  isPath,
  located,
  MOST_STEPS,
  STEPS_BESIDE,
  one,
  stepTo,
  textAt,
  textOf,
  textsAt,
  TooManySteps,
  withinSteps,
} from './jsonPath.ts';
export { memoize } from './memoize.ts';
export { parseJson, parseJsonExactly } from './parse.ts';
