import { preflight, type Finding, type PreflightInput, type PreflightSource } from '../../src/core/plan/index.ts';

type Some = Pick<PreflightInput, 'document'> &
  Partial<Omit<PreflightInput, 'sources'>> & {
    sources: (Pick<PreflightSource, 'name' | 'live'> & Partial<PreflightSource>)[];
  };

/** What preflight finds, of a route about which no more is known than a test says. */
export const findingsOf = ({ sources, ...more }: Some): Finding[] =>
  preflight({
    catalogues: {},
    connections: {},
    purposes: [],
    knowledge: [],
    others: [],
    names: [],
    now: Date.UTC(2026, 4, 31),
    ...more,
    sources: sources.map((source) => ({ isChanged: false, samples: [], pace: 0, ...source })),
  });
