import { expect, it } from 'vitest';
import { layoutFlows } from './flowLayout.ts';

const flow = (route: string, source: string, delivered: number, held = 0) => ({
  routeId: route,
  routeName: route,
  sourceId: source,
  sourceName: source,
  connectionId: 'C',
  connectionName: 'C',
  delivered,
  held,
});

it('draws each source, route and destination once, wider for more', () => {
  const { nodes, strands } = layoutFlows([flow('r1', 's1', 100), flow('r2', 's1', 10, 2)]);
  expect(nodes.map(({ id }) => id)).toEqual(['source s1', 'route r1', 'route r2', 'connection C']);
  const [into1, , into2, out2] = strands;
  expect(into1 && into2 && into1.width > into2.width).toBe(true);
  expect(out2?.held).toBe(2);
});

it('has room for nothing', () => expect(layoutFlows([])).toMatchObject({ nodes: [], strands: [] }));
