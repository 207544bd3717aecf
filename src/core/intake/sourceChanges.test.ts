import { expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { fieldChanges, mayBreak } from './index.ts';

const live = formOf([
  sourceField('email', 'email', { label: 'Email', required: true }),
  sourceField('visits', 'choice', { label: 'Been here?', options: ['no', 'yes'] }),
  sourceField('old', 'text', { label: 'Old' }),
]);

it('says nothing of a draft that is as what is live, in whatever order', () => {
  expect(fieldChanges(live, live)).toEqual([]);
  expect(fieldChanges(live, { ...live, fields: live.fields.toReversed() })).toEqual([]);
});

it('says what was added, removed, renamed, asked otherwise, and which of that routes may stumble over', () => {
  const draft = formOf([
    sourceField('email', 'email', { label: 'Your email', key: 'mail' }),
    sourceField('visits', 'several choices', { label: 'Been here?', options: ['no', 'often'] }),
    sourceField('new', 'text', { label: 'New' }),
  ]);
  const changes = fieldChanges(live, draft);
  expect(changes.map(({ id, what, before, after }) => [id, what, before, after])).toEqual([
    ['email', 'renamed', 'email', 'mail'],
    ['email', 'required', 'required', 'optional'],
    ['email', 'words', 'Email', 'Your email'],
    ['visits', 'type', 'choice', 'several choices'],
    ['visits', 'answers', 'no, yes', 'no, often'],
    ['new', 'added', '', ''],
    ['old', 'removed', '', ''],
  ]);
  expect(changes.filter(mayBreak).map(({ what }) => what)).toEqual(['renamed', 'type', 'removed']);
});
