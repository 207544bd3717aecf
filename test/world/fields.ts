import { saying } from '../../src/core/forms/index.ts';
import {
  PLAIN_WEBHOOK,
  plainFace,
  SOURCE_FORMAT,
  type FormDocument,
  type PostsDocument,
} from '../../src/core/intake/index.ts';
import { plainField, type SourceField } from '../../src/core/values/index.ts';

/** A field of a source that asks for nothing more than a test says. */
export const sourceField = (
  key: string,
  type: SourceField['type'] = 'text',
  more: Partial<SourceField> = {},
): SourceField => ({ ...plainField(key, type), ...more });

/** A form that asks for nothing more than a test says. */
export const formOf = (fields: SourceField[], more: Partial<FormDocument> = {}): FormDocument => ({
  format: SOURCE_FORMAT,
  kind: 'form',
  ...plainFace(fields),
  fields,
  button: 'Go',
  resetLabel: '',
  statement: '',
  trust: 'usual',
  ending: saying(''),
  origins: [],
  minimumSeconds: 0,
  ...more,
});

/** An address for posts from elsewhere. */
export const postsOf = (fields: SourceField[], more: Partial<PostsDocument> = {}): PostsDocument => ({
  format: SOURCE_FORMAT,
  kind: 'posts',
  fields,
  statement: '',
  trust: 'usual',
  each: '',
  ...PLAIN_WEBHOOK,
  ...more,
});
