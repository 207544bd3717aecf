import type { ConnectionView } from '../../../contract/connection.ts';
import { fieldsFor, type RouteNames } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { usePurposes } from '../../data/purposes.ts';

/** What the parts of a route are called, for sentences about its changes. */
export function useRouteNames({
  sources,
  connections,
  fields,
}: {
  sources: { id: string; name: string }[];
  connections: ConnectionView[];
  fields: SourceField[];
}): RouteNames {
  const purposes = usePurposes();
  const catalogueOf = (id: string) => connections.find((one) => one.id === id)?.catalogue;
  return {
    names: Object.fromEntries([...sources, ...connections, ...(purposes.data ?? [])].map(({ id, name }) => [id, name])),
    fields,
    fieldThere: (connectionId, key) => {
      const catalogue = catalogueOf(connectionId);
      const known = catalogue
        ? [...catalogue.kinds.map(({ id }) => id), ''].flatMap((kind) => fieldsFor(catalogue, { kind, lines: [] }))
        : [];
      return known.find((field) => field.key === key)?.label ?? key;
    },
    placeThere: (connectionId, id) =>
      catalogueOf(connectionId)
        ?.lists.flatMap((list) => [list, ...list.groups])
        .find((one) => one.id === id)?.name ?? id,
  };
}
