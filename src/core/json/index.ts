export { all, isPath, located, one, stepTo, textAt, textOf, textsAt } from './jsonPath.ts';
export { keeping } from './keeping.ts';
export { parseJson } from './parse.ts';
