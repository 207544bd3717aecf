import { describe, expect, it } from 'vitest';
import { formOf, sourceField } from '../../../test/world/fields.ts';
import { faceOf, saying } from '../forms/index.ts';
import { documentChanges, fieldChanges, mayBreak, type FormDocument } from './index.ts';

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

describe('what else visitors, pages and routes will notice', () => {
  const words = (draft: FormDocument) =>
    documentChanges(live, draft).map(({ what, before, after }) =>
      after === '' ? what : `${what}: ${before} → ${after}`,
    );

  it('is nothing where nothing changed', () => expect(words({ ...live })).toEqual([]));
  it('is who sees what, where, and what comes after', () =>
    expect(
      words({
        ...live,
        button: 'Send it',
        statement: 'By sending you agree.',
        showing: { ...live.showing, pages: ['/visit/*'] },
        ending: saying('Look into your mailbox.', {
          download: { label: 'The chart', file: '', url: 'https://hill.example/chart.pdf', days: 7 },
        }),
        variants: [
          { id: 'a', name: 'A', share: 50, face: null, nothing: false },
          { id: 'b', name: 'Short', share: 50, face: faceOf({ ...live, title: 'Short' }), nothing: false },
        ],
      }),
    ).toEqual([
      'The words that sending agrees to: nothing → By sending you agree.',
      'Variants: none → A 50 %, Short 50 %',
      `The button: ${live.button} → Send it`,
      'On which pages: on every page → /visit/*',
      'The words of the ending: our own words → Look into your mailbox.',
      'The file that is handed out: none → The chart, for 7 days',
    ]));
  it('names also what is no sentence: another face of a variant, what stands on it', () => {
    const variants = (title: string) => [
      { id: 'a', name: 'A', share: 100, face: faceOf({ ...live, title }), nothing: false },
    ];
    expect(
      documentChanges({ ...live, variants: variants('One') }, { ...live, variants: variants('Two'), items: [] }),
    ).toEqual([
      { what: 'Variants', before: '', after: '' },
      { what: 'What stands on it, in which order, and for whom', before: '', after: '' },
    ]);
  });
});
