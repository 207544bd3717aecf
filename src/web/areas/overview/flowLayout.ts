import type { OverviewView } from '../../../contract/overview.ts';

type Flow = OverviewView['flows'][number];

export interface FlowNode {
  id: string;
  name: string;
  link: string;
  x: number;
  y: number;
}

export interface FlowStrand {
  id: string;
  from: FlowNode;
  to: FlowNode;
  width: number;
  label: string;
  held: number;
}

export interface FlowMap {
  nodes: FlowNode[];
  strands: FlowStrand[];
  height: number;
}

export const COLUMNS = { source: 0, route: 300, connection: 600 };
export const NODE = { width: 210, height: 44 };
const ROW = 76;
const WIDEST = 18;

/** Places sources on the left, routes in the middle and destinations on the right; strands as wide as their volume. */
export function layoutFlows(flows: Flow[]): FlowMap {
  const most = Math.max(1, ...flows.map(({ delivered }) => delivered));
  const column = (
    kind: keyof typeof COLUMNS,
    entries: [id: string, name: string, link: string][],
  ): Map<string, FlowNode> => {
    const unique = [...new Map(entries.map((entry) => [entry[0], entry])).values()];
    return new Map(
      unique.map(([id, name, link], row) => [id, { id: `${kind} ${id}`, name, link, x: COLUMNS[kind], y: row * ROW }]),
    );
  };
  const sources = column(
    'source',
    flows.map((flow) => [flow.sourceId, flow.sourceName, `/sources/${flow.sourceId}`]),
  );
  const routes = column(
    'route',
    flows.map((flow) => [flow.routeId, flow.routeName, `/routes/${flow.routeId}`]),
  );
  const connections = column(
    'connection',
    flows.map((flow) => [flow.connectionId, flow.connectionName, `/connections/${flow.connectionId}`]),
  );
  const rows = Math.max(1, sources.size, routes.size, connections.size);
  // A short column stands in the middle of the long ones.
  for (const nodes of [sources, routes, connections])
    for (const node of nodes.values()) node.y += ((rows - nodes.size) * ROW) / 2;
  const strands = flows.flatMap((flow) => {
    const [source, route, connection] = [
      sources.get(flow.sourceId),
      routes.get(flow.routeId),
      connections.get(flow.connectionId),
    ];
    if (!source || !route || !connection) return [];
    const width = 2 + (WIDEST - 2) * (flow.delivered / most);
    const label = `${flow.delivered} delivered in 7 days${flow.held > 0 ? `, ${flow.held} held` : ''}`;
    return [
      { id: `${flow.routeId} in`, from: source, to: route, width, label, held: 0 },
      { id: `${flow.routeId} ${flow.connectionId}`, from: route, to: connection, width, label, held: flow.held },
    ];
  });
  return { nodes: [...sources.values(), ...routes.values(), ...connections.values()], strands, height: rows * ROW };
}
