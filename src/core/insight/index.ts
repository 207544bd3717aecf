export {
  cameBy,
  COUNTED,
  DIMENSIONS,
  FUNNEL,
  hostOf,
  SEEN,
  type CountedWhat,
  type Dimension,
  type FunnelStep,
} from './counting.ts';
export { intervalOf, shareOf } from './share.ts';
export { silenceOf, type Silence } from './silence.ts';
