import type { DestinationField } from '../mapping/index.ts';

/** A place or label in the other system. */
export interface CatalogueItem {
  id: string;
  name: string;
}

export interface CatalogueList extends CatalogueItem {
  groups: CatalogueItem[];
}

/** What a connected system offers. */
export interface Catalogue {
  lists: CatalogueList[];
  tags: CatalogueItem[];
  fields: DestinationField[];
}
