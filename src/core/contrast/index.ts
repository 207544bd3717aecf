export { contrastOf, contrastsOf, leastVeil, nearestPassing, type Contrast } from './contrast.ts';
