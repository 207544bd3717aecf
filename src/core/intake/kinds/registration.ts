import type { Kind } from '../reading.ts';
import type { RegistrationDocument } from '../source.ts';
import { posts } from './posts.ts';

/** What a site tells of those who register with it, and of its members. */
export const registration: Kind<RegistrationDocument> = {
  read: posts.read,
  // The site shows who it is.
  screen: () => null,
};
