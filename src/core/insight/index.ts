export {
  addedUp,
  cameBy,
  countOf,
  countsOf,
  COUNTED,
  DIMENSIONS,
  FUNNEL,
  hostOf,
  isStep,
  saidByMedium,
  SITE_KINDS,
  SEEN,
  type Count,
  type CountedEvent,
  type CountedWhat,
  type Dimension,
  type FunnelStep,
  type SiteKind,
} from './counting.ts';
export { compareVariants, evidenceOf, LEVEL, type Comparison, type Stretch } from './compare.ts';
export { intervalOf, shareOf } from './share.ts';
export { spanOf, spansOf, type Spans } from './spans.ts';
export { coverOf, STRETCHES, type StretchHours } from './stretches.ts';
export { expectedIn, mayBeSilent, rhythmOf, silenceOf, type Rhythm, type Silence } from './silence.ts';
