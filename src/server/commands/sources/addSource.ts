import {
  FIRST_START,
  NEW_CHAT,
  NEW_REGISTRATION,
  PLAIN_WEBHOOK,
  SOURCE_FORMAT,
  STARTS,
  type FileDocument,
  type FormDocument,
  type MadeDocument,
  type MadeKind,
  type PostsDocument,
} from '../../../core/intake/index.ts';
import { plainField } from '../../../core/values/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { newPublicId } from '../../security/tokens.ts';
import { addSource as store } from '../../store/sources.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';

/** What a new address for posts starts as. */
const NEW_POSTS: PostsDocument = {
  format: SOURCE_FORMAT,
  kind: 'posts',
  fields: [{ ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' }],
  statement: '',
  trust: 'usual',
  each: '',
  ...PLAIN_WEBHOOK,
};

/** What a source of files starts as. */
const NEW_FILE: FileDocument = {
  format: SOURCE_FORMAT,
  kind: 'file',
  fields: [{ ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' }],
  statement: '',
  trust: 'usual',
};

function newForm({ start = '', page = '' }: NewSource): FormDocument {
  const { document } = STARTS.find(({ id }) => id === start) ?? FIRST_START;
  return page === '' ? document : shownOn(document, new URL(page));
}

const NEW_OF: Record<NewSource['kind'], (asked: NewSource) => MadeDocument> = {
  form: newForm,
  posts: () => NEW_POSTS,
  chat: () => NEW_CHAT,
  registration: () => NEW_REGISTRATION,
  file: () => NEW_FILE,
};

/** What a new source of a kind starts as. */
export const newDocument = (asked: NewSource): MadeDocument => NEW_OF[asked.kind](asked);

/** The end of what a page says: of its main part, or of all of it where none is marked as that. */
const END_OF_PAGE = 'main > :last-child, body:not(:has(main)) > :last-child';

/** A form that shows itself on a page, at the end of what it says, and is taken from there alone. */
const shownOn = (form: FormDocument, { origin, pathname }: URL): FormDocument => ({
  ...form,
  origins: [origin],
  showing: { ...form.showing, pages: [origin + pathname], placeAt: END_OF_PAGE, placeSide: 'after' },
});

export interface NewSource {
  /** A shop is made of its connection: see connectShop. */
  kind: Exclude<MadeKind, 'shop'>;
  /** What a form begins with. */
  start?: string;
  /** The address of the page that it is shown on; '' for none. */
  page?: string;
}

/**
 * Makes a source: a new one of its kind, one out of a file, as a draft whatever it was there, or a given one.
 * @returns its id
 */
export async function addSource(
  actor: Actor,
  context: Context,
  {
    name,
    publicId = newPublicId(),
    ...start
  }: { name: string; publicId?: string } & (NewSource | { imported: MadeDocument } | { draft: MadeDocument }),
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  const draft = 'draft' in start ? start.draft : 'imported' in start ? start.imported : newDocument(start);
  return inCommand(context, actor, async (db) => {
    const id = newId();
    await store(db, { id, publicId, name, draft, now: now() });
    return done(id, { act: 'imported' in start ? 'imported' : 'made', subject: { kind: 'source', id, name } });
  });
}
