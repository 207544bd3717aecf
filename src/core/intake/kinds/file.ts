import type { Kind } from '../reading.ts';
import { asPosts, type FileDocument } from '../source.ts';
import { posts } from './posts.ts';

/** A row of a file: its cells under the names of their columns. */
export const file: Kind<FileDocument> = {
  read: (document, payload, facts) => posts.read(asPosts(document), payload, facts),
  // Somebody who is signed in handed it over.
  screen: () => null,
};
