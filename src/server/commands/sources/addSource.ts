import type { MadeKind } from '../../../core/intake/index.ts';
import {
  FIRST_START,
  SOURCE_FORMAT,
  STARTS,
  type PostsDocument,
  type MadeDocument,
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
};

/** What a new source of a kind starts as. */
const newDocument = (kind: MadeKind, start: string): MadeDocument =>
  kind === 'posts' ? NEW_POSTS : (STARTS.find(({ id }) => id === start) ?? FIRST_START).document;

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
  }: { name: string; publicId?: string } & (
    { kind: MadeKind; start?: string } | { imported: MadeDocument } | { draft: MadeDocument }
  ),
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  const draft =
    'draft' in start ? start.draft : 'imported' in start ? start.imported : newDocument(start.kind, start.start ?? '');
  return inCommand(context, actor, async (db) => {
    const id = newId();
    await store(db, { id, publicId, name, draft, now: now() });
    return done(id, { act: 'imported' in start ? 'imported' : 'made', subject: { kind: 'source', id, name } });
  });
}
