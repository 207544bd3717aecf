import type { Payload } from '../payload.ts';
import type { Kind, Reading, ReadingFacts, Unreadable } from '../reading.ts';
import type { Signs, Suspicion } from '../screening.ts';
import type { SourceDocument, SourceKind } from '../source.ts';
import { chat } from './chat.ts';
import { file } from './file.ts';
import { form } from './form.ts';
import { notices } from './notices.ts';
import { posts } from './posts.ts';
import { registration } from './registration.ts';
import { shop } from './shop.ts';

/** Every kind of source: one file each in this folder. */
const KINDS: { [Name in SourceKind]: Kind<Extract<SourceDocument, { kind: Name }>> } = {
  form,
  posts,
  file,
  shop,
  registration,
  chat,
  notices,
};

const kindOf = (document: SourceDocument) => KINDS[document.kind] as Kind<SourceDocument>;

/** Reads what was sent to a source: one reading for each submission in it, or why there is none. */
export const readPayload = (document: SourceDocument, payload: Payload, facts: ReadingFacts): Reading[] | Unreadable =>
  kindOf(document).read(document, payload, facts);

/** Whether a submission looks like a robot's. */
export const suspicionOf = (document: SourceDocument, signs: Signs): Suspicion | null =>
  kindOf(document).screen(document, signs);
