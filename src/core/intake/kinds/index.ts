import { TooManySteps, withinSteps } from '../../json/index.ts';
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
export function readPayload(document: SourceDocument, payload: Payload, facts: ReadingFacts): Reading[] | Unreadable {
  try {
    return withinSteps(() => kindOf(document).read(document, payload, facts));
  } catch (error) {
    if (error instanceof TooManySteps) return { problem: error.message };
    throw error;
  }
}

/** Whether a submission looks like a robot's. */
export const suspicionOf = (document: SourceDocument, signs: Signs): Suspicion | null =>
  kindOf(document).screen(document, signs);
