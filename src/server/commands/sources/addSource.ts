import type { MadeKind } from '../../../core/intake/index.ts';
import {
  plainFace,
  SOURCE_FORMAT,
  type FormDocument,
  type PostsDocument,
  type MadeDocument,
} from '../../../core/intake/index.ts';
import { plainField } from '../../../core/values/index.ts';
import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { newPublicId } from '../../security/tokens.ts';
import { addSource as store } from '../../store/sources.ts';
import { done, inCommand, type Actor, type Refusal } from '../command.ts';

const NEW_FIELDS = [
  { ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' },
  {
    ...plainField('consent', 'yes/no'),
    label: 'Yes, send me the newsletter. I can leave it at any time.',
    required: true,
  },
];

/** What a new form starts as: the shortest that makes sense. */
const NEW_FORM: FormDocument = {
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(NEW_FIELDS),
  title: 'Get our newsletter',
  fields: NEW_FIELDS,
  button: 'Sign up',
  resetLabel: '',
  statement: '',
  trust: 'usual',
  thankYouUrl: '',
  thankYouMessage: 'Thank you. Please look into your mailbox and confirm your address.',
  origins: [],
  minimumSeconds: 2,
};

/** What a new address for posts starts as. */
const NEW_POSTS: PostsDocument = {
  format: SOURCE_FORMAT,
  kind: 'posts',
  fields: [{ ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' }],
  statement: '',
  trust: 'usual',
  each: '',
};

const NEW: Record<MadeKind, MadeDocument> = { form: NEW_FORM, posts: NEW_POSTS };

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
  }: { name: string; publicId?: string } & ({ kind: MadeKind } | { imported: MadeDocument } | { draft: MadeDocument }),
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  const draft = 'draft' in start ? start.draft : 'imported' in start ? start.imported : NEW[start.kind];
  return inCommand(context, actor, async (db) => {
    const id = newId();
    await store(db, { id, publicId, name, draft, now: now() });
    return done(id, { act: 'imported' in start ? 'imported' : 'made', subject: { kind: 'source', id, name } });
  });
}
