import type { Abilities, Catalogue } from '../../src/core/plan/index.ts';

/** A service that can do everything, as far as a test does not say otherwise. */
export const abilities = (more: Partial<Abilities> = {}): Abilities => ({
  lists: true,
  groups: true,
  tags: true,
  leavesLists: true,
  leavesGroups: true,
  untags: true,
  kinds: false,
  freeFields: false,
  readBack: true,
  duplicates: ['update', 'fill gaps', 'leave alone'],
  makes: { list: false, group: false, tag: false, field: false },
  calls: { list: 'list', group: 'group', kind: 'kind of record' },
  ...more,
});

export const catalogueOf = (more: Partial<Catalogue> = {}): Catalogue => ({
  lists: [],
  tags: [],
  fields: [],
  kinds: [],
  can: abilities(),
  ...more,
});
