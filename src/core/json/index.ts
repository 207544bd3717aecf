export { all, isPath, located, one, textAt, textOf, textsAt } from './jsonPath.ts';
export { keeping } from './keeping.ts';
export { parseJson } from './parse.ts';
