export { contrastOf, contrastsOf, nearestPassing, type Contrast } from './contrast.ts';
