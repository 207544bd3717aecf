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
export { compareVariants, evidenceOf, LEVEL, type Comparison, type Stretch } from './compare.ts';
export { intervalOf, shareOf } from './share.ts';
export { silenceOf, type Silence } from './silence.ts';
