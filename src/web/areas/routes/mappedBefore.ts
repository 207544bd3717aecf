import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import type { SourceView } from '../../../contract/source.ts';
import { fieldsTold, type MappedBefore } from '../../../core/mapping/index.ts';
import { fieldsFor } from '../../../core/plan/index.ts';

/** Which labels were mapped to which in the other routes: what an operator did once is what they most likely mean again. */
export function mappedBefore(
  routes: RouteView[],
  routeId: string,
  { sources, connections }: { sources: SourceView[]; connections: ConnectionView[] },
): MappedBefore[] {
  return routes
    .filter(({ id }) => id !== routeId)
    .flatMap(({ draft }) => {
      const fields = sources.filter(({ id }) => draft.sourceIds.includes(id)).flatMap((source) => source.draft.fields);
      return draft.targets.flatMap((target) => {
        const catalogue = connections.find(({ id }) => id === target.connectionId)?.catalogue;
        const there = catalogue ? fieldsFor(catalogue, target) : [];
        return target.lines.flatMap(({ from, to, steps }) => {
          const origin = from.kind === 'field' ? fields.find(({ id }) => id === from.field) : undefined;
          const field = there.find(({ key }) => key === to);
          // Another field that a step was told of is not in every source.
          const own = steps.filter((step) => fieldsTold(step).length === 0);
          return origin && field
            ? [{ from: origin.label, to: field.label, steps: own.map(({ kind, options }) => ({ kind, options })) }]
            : [];
        });
      });
    });
}
