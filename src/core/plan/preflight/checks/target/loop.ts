import type { Check, Flow } from '../../check.ts';

/** The routes by which what comes to one source gets into another, the shortest way; null where it does not. */
function wayTo(flows: Flow[], from: string, to: string[]): string[] | null {
  let ends: { at: string; by: string[] }[] = [{ at: from, by: [] }];
  const seen = new Set([from]);
  while (ends.length > 0) {
    const home = ends.find(({ at }) => to.includes(at));
    if (home) return home.by;
    ends = ends.flatMap(({ at, by }) =>
      flows.flatMap((flow) => {
        if (flow.from !== at || seen.has(flow.to)) return [];
        seen.add(flow.to);
        return [{ at: flow.to, by: [...by, flow.route] }];
      }),
    );
  }
  return null;
}

export const loop: Check = {
  code: 'a loop',
  level: 'blocker',
  why: 'Everything that is delivered comes in again and is delivered again, without end.',
  find: ({ document, flows, connections }) =>
    document.targets.flatMap(({ connectionId }, target) => {
      const connection = connections[connectionId];
      const way = connection?.leadsTo == null ? null : wayTo(flows, connection.leadsTo, document.sourceIds);
      if (!connection || way === null) return [];
      const through = way.length === 0 ? '' : `, through ${way.map((route) => `"${route}"`).join(' and ')}`;
      return [
        {
          part: 'target' as const,
          target,
          message: `${connection.name} leads to a source of this installation, and from there into this route again${through}.`,
          fix: 'Send it elsewhere, or take the source out of one of the routes.',
        },
      ];
    }),
};
