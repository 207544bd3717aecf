import type { Kind } from '../reading.ts';
import { asPosts, type FileDocument, type PostsDocument } from '../source.ts';
import { posts } from './posts.ts';

/** Made once for a document, not for each of its rows. */
const made = new WeakMap<FileDocument, PostsDocument>();
function postsOf(document: FileDocument): PostsDocument {
  const found = made.get(document) ?? asPosts(document);
  made.set(document, found);
  return found;
}

/** A row of a file: its cells under the names of their columns. */
export const file: Kind<FileDocument> = {
  read: (document, payload, facts) => posts.read(postsOf(document), payload, facts),
  // Somebody who is signed in handed it over.
  screen: () => null,
};
