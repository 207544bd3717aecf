import type { InsightView } from '../../../contract/insight.ts';
import type { Dimension, FunnelStep } from '../../../core/insight/index.ts';

/** Where the very submissions are that a figure counts. */
export function linkTo(
  { fromMs, toMs }: Pick<InsightView, 'fromMs' | 'toMs'>,
  reached: FunnelStep | 'downloaded' | 'replied',
  of: { source?: string; by?: Dimension; value?: string },
): string {
  const query = new URLSearchParams({ from: String(fromMs), to: String(toMs), reached });
  for (const [name, value] of Object.entries(of)) if (value) query.set(name, value);
  return `/activity?${query.toString()}`;
}
